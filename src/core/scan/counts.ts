import { Fault } from '../result/fault.ts';
import { type FileLimits, limitWords } from './limits.ts';

export const tooManyTriangles = (n: number, limits: FileLimits): Fault =>
  new Fault('file.too-large', {
    expected: limitWords(limits, 'triangles'),
    received: `it holds ${Math.floor(n).toLocaleString('en')}${Number.isInteger(n) ? '' : ' and more'}`,
    remedy: 'Export the scan with fewer triangles: 300,000 are enough for a tenth of a millimetre.',
  });
