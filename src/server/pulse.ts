import { randomBytes } from 'node:crypto';

/** Counts the changes since the start. It is the version in the Tray's ETag, so that a poll without news is answered by 304. */
export class Pulse {
  private readonly start = randomBytes(6).toString('hex');
  private count = 0;

  bump(): void {
    this.count++;
  }

  get tag(): string {
    return `"${this.start}-${this.count}"`;
  }
}
