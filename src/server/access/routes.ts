import type { SubjectKind } from './subjects.ts';
import type { Action } from './table.ts';

/**
 * What a route asks for: nothing (`open`), a sign-in (`signed-in`), an action in at least one course (`any-course`), an
 * action on what the parameter names (`on`), or on a student's own trail (`student`).
 */
export type Rule =
  | { readonly kind: 'open' }
  | { readonly kind: 'signed-in' }
  | { readonly kind: 'any-course'; readonly action: Action }
  | { readonly kind: 'on'; readonly subject: SubjectKind; readonly param: string; readonly action: Action }
  | { readonly kind: 'student'; readonly param: string; readonly action: Action };

const on = (subject: SubjectKind, action: Action, param = 'id'): Rule => ({ kind: 'on', subject, param, action });

/** Every route and method with its rule. A route that is not listed answers 404 to everyone; a test compares the list with the file tree. */
export const ROUTES: Readonly<Record<string, Readonly<Record<string, Rule>>>> = {
  '/': { GET: { kind: 'signed-in' } },
  '/sign-in': { GET: { kind: 'open' } },
  '/tray': { GET: { kind: 'any-course', action: 'tray.see' } },
  '/tray/[sitting]': { GET: on('sitting', 'tray.see', 'sitting') },
  '/bench/[attempt]': { GET: on('attempt', 'attempt.see', 'attempt') },
  '/align/[scan]': { GET: on('scan', 'scan.steer', 'scan') },
  '/masters': { GET: { kind: 'any-course', action: 'master.keep' } },
  '/masters/[draft]': { GET: on('draft', 'master.keep', 'draft') },
  '/first-start/[token]': { GET: { kind: 'open' } },
  '/welcome/[token]': { GET: { kind: 'open' } },
  '/courses': { GET: { kind: 'any-course', action: 'people.see' } },
  '/courses/[course]': { GET: on('course', 'people.see', 'course') },
  '/courses/[course]/gradebook': { GET: on('course', 'gradebook.see', 'course') },
  '/trail': { GET: { kind: 'signed-in' } },
  '/trail/[student]': { GET: { kind: 'student', param: 'student', action: 'trail.see' } },
  '/404': { GET: { kind: 'open' } },
  '/api/health': { GET: { kind: 'open' } },
  '/api/sign-in': { POST: { kind: 'open' } },
  '/api/sign-out': { POST: { kind: 'open' } },
  '/api/routes': { GET: { kind: 'any-course', action: 'routes.see' } },
  '/api/audit': { GET: { kind: 'any-course', action: 'audit.see' } },
  '/api/sittings/[id]/tray': { GET: on('sitting', 'tray.see') },
  '/api/sittings/[id]/preview': { POST: on('sitting', 'scan.bring') },
  '/api/sittings/[id]/scans': { POST: on('sitting', 'scan.bring') },
  '/api/sittings/[id]/scanner': { POST: on('sitting', 'scan.bring') },
  '/api/sittings/[id]/attempts': { POST: on('sitting', 'attempt.open') },
  '/api/sittings/[id]/graders': { POST: on('sitting', 'attempt.assign') },
  '/api/sittings/[id]/release': { POST: on('sitting', 'attempt.release') },
  '/api/scans/[id]/pair': { GET: on('scan', 'scan.steer') },
  '/api/scans/[id]/cancel': { POST: on('scan', 'scan.steer') },
  '/api/scans/[id]/retry': { POST: on('scan', 'scan.steer') },
  '/api/scans/[id]/assign': { POST: on('scan', 'scan.steer') },
  '/api/scans/[id]/remove': { POST: on('scan', 'scan.steer') },
  '/api/scans/[id]/pose': { POST: on('scan', 'scan.steer') },
  '/api/scans/[id]/size': { POST: on('scan', 'scan.steer') },
  '/api/first-start': { POST: { kind: 'open' } },
  '/api/welcome': { POST: { kind: 'open' } },
  '/api/calendar': { GET: { kind: 'any-course', action: 'calendar.see' } },
  '/api/search': { GET: { kind: 'any-course', action: 'tray.see' } },
  '/api/courses': { POST: { kind: 'any-course', action: 'course.keep' } },
  '/api/courses/[id]': { GET: on('course', 'people.see'), POST: on('course', 'course.keep') },
  '/api/courses/[id]/copy': { POST: on('course', 'course.keep') },
  '/api/courses/[id]/exercises': { POST: on('course', 'course.keep') },
  '/api/courses/[id]/sittings': { POST: on('course', 'course.keep') },
  '/api/courses/[id]/roster': { GET: on('course', 'people.see'), POST: on('course', 'people.keep') },
  '/api/courses/[id]/roster-plan': { POST: on('course', 'people.keep') },
  '/api/courses/[id]/roster-undo': { POST: on('course', 'people.keep') },
  '/api/courses/[id]/invite': { POST: on('course', 'people.keep') },
  '/api/courses/[id]/gradebook': { GET: on('course', 'gradebook.see') },
  '/api/courses/[id]/oneroster': { GET: on('course', 'gradebook.see') },
  '/api/sittings/[id]': { POST: on('sitting', 'course.keep') },
  '/api/courses/[id]/masters': { POST: on('course', 'master.keep') },
  '/api/masters/[id]': { GET: on('draft', 'master.keep'), POST: on('draft', 'master.keep') },
  '/api/masters/[id]/arch': { GET: on('draft', 'master.keep') },
  '/api/masters/[id]/opposing': { GET: on('draft', 'master.keep') },
  '/api/masters/[id]/occlude': { POST: on('draft', 'master.keep') },
  '/api/masters/[id]/carry': { POST: on('draft', 'master.keep') },
  '/api/masters/[id]/trial': { POST: on('draft', 'master.keep') },
  '/api/masters/[id]/compare': { POST: on('draft', 'master.keep') },
  '/api/masters/[id]/unit': { POST: on('draft', 'master.keep') },
  '/api/masters/[id]/touch': { POST: on('draft', 'master.keep') },
  '/api/masters/[id]/finish': { POST: on('draft', 'master.keep') },
  '/api/masters/[id]/archive': { GET: on('draft', 'master.keep') },
  '/api/masters/[id]/use': { POST: on('draft', 'master.use') },
  '/api/attempts/[id]/display': { GET: on('attempt', 'attempt.see') },
  '/api/attempts/[id]/master': { GET: on('attempt', 'attempt.see') },
  '/api/attempts/[id]/profiles': { GET: on('attempt', 'attempt.see') },
  '/api/attempts/[id]/picture': { GET: on('attempt', 'picture.see') },
  '/api/attempts/[id]/photo': {
    GET: on('attempt', 'score.see'),
    POST: on('attempt', 'attempt.judge'),
    DELETE: on('attempt', 'attempt.judge'),
  },
  '/api/attempts/[id]/grades': { GET: on('attempt', 'attempt.see') },
  '/api/attempts/[id]/judge': { POST: on('attempt', 'attempt.judge') },
  '/api/attempts/[id]/comment': { POST: on('attempt', 'attempt.judge') },
  '/api/attempts/[id]/hand': { POST: on('attempt', 'attempt.judge') },
  '/api/attempts/[id]/pin': { POST: on('attempt', 'attempt.judge') },
  '/api/attempts/[id]/measurement': { POST: on('attempt', 'attempt.judge') },
  '/api/attempts/[id]/sign': { POST: on('attempt', 'attempt.sign') },
  '/api/attempts/[id]/release': { POST: on('attempt', 'attempt.release') },
  '/api/attempts/[id]/withdraw': { POST: on('attempt', 'attempt.release') },
  '/api/attempts/[id]/rounds': { POST: on('attempt', 'attempt.assign') },
};
