import path from 'node:path';

export interface Student {
  readonly id: string;
  readonly name: string;
  readonly bench: string | null;
}

/** The student that a file name identifies, and the word that does. */
export interface Match {
  readonly student: Student;
  readonly by: 'number' | 'bench' | 'name';
}

/** Words of letters and digits in any script, without accents and case. */
const wordsOf = (text: string): string[] =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu) ?? [];

/** Whether words stand in a row in a list of words. */
const containsRow = (all: readonly string[], row: readonly string[]): boolean =>
  row.length > 0 && all.some((_, i) => row.every((w, k) => all[i + k] === w));

/** Finds the student in a file name; null where it names nobody, or several. */
export function matchStudent(fileName: string, students: readonly Student[]): Match | null {
  const hits = matchesOf(fileName, students);
  return hits.length === 1 ? hits[0] : null;
}

/** The students that a file name means, by number (H07), bench (B2-04) or full name, each as whole words. */
export function matchesOf(fileName: string, students: readonly Student[]): Match[] {
  const plain = path.basename(fileName).replace(/(\.[a-z0-9]{1,4})?\.[a-z0-9]{1,4}$/i, '');
  const words = wordsOf(plain);
  return students.flatMap((student): Match[] => {
    if (containsRow(words, wordsOf(student.id))) return [{ student, by: 'number' }];
    if (student.bench !== null && containsRow(words, wordsOf(student.bench))) return [{ student, by: 'bench' }];
    const names = wordsOf(student.name);
    return names.length > 0 && names.every((n) => words.includes(n)) ? [{ student, by: 'name' }] : [];
  });
}
