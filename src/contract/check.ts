import * as v from 'valibot';
import { Fault, type FaultCode } from '#core/result/fault.ts';

/** Checks a value against a schema; the first fault becomes a sentence that names the field. */
export function checked<S extends v.GenericSchema>(
  schema: S,
  value: unknown,
  code: FaultCode,
  where: string,
  remedy: string,
): v.InferOutput<S> {
  const r = v.safeParse(schema, value);
  if (r.success) return r.output;
  const issue = r.issues[0];
  const field = v.getDotPath(issue);
  throw new Fault(code, {
    where: field ? `${where}, ${field}` : where,
    expected: issue.message.startsWith('Invalid ') ? `it should be ${issue.expected ?? issue.message}` : issue.message,
    received: `it is ${issue.received}`,
    remedy,
  });
}
