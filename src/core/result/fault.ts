/** All faults of a file from outside. One sentence each, with the remedy; each asserted once in tests. */
export const FAULTS = {
  'file.empty': 'The file is empty',
  'file.unknown': 'The file is not a scan',
  'file.truncated': 'The file is cut short',
  'file.syntax': 'The file breaks its own format',
  'file.too-large': 'The file is too large',
  'file.archive': 'The archive cannot be unpacked',
  'file.unreadable': 'The file cannot be read',
  'scan.nan': 'The scan holds coordinates that are not numbers',
  'scan.too-few': 'The scan has too few triangles',
  'scan.soup': 'The scan is no surface',
  'scan.scale': 'The scan is not in millimetres',
  'align.no-overlap': 'The scan does not fit this master',
  'align.mirrored': 'The scan is mirrored',
  'align.too-little': 'Too little of the surroundings was scanned',
  'align.one-sided': 'The scan shows the surroundings on one side only',
  'align.residual': 'The scan fits the master too loosely',
  'align.wrong-tooth': 'Another tooth than the master’s was prepared',
  'occlusion.bite': 'The jaws cannot be brought together by this bite scan',
  'master.json': 'The master file cannot be read',
  'master.part': 'The master lacks something it needs',
  'recipe.invalid': 'The recipe cannot be used',
  'rubric.invalid': 'The rubric cannot be used',
  'standard.invalid': 'The standard cannot be used',
  'kind.unsupported': 'This kind of preparation cannot be measured yet',
} as const;

export type FaultCode = keyof typeof FAULTS;

export interface FaultDetail {
  readonly expected: string;
  readonly received: string;
  readonly remedy: string;
  readonly where?: string;
}

/** A fault of the input: `message` is the whole sentence for people, the parts stay readable for programs. */
export class Fault extends Error {
  readonly code: FaultCode;
  readonly detail: FaultDetail;
  constructor(code: FaultCode, detail: FaultDetail) {
    super(`${FAULTS[code]}${detail.where ? ` (${detail.where})` : ''}: ${detail.received}, but ${detail.expected}. ${detail.remedy}`);
    this.name = 'Fault';
    this.code = code;
    this.detail = detail;
  }
}
