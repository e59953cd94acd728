import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { Refused } from '../errors.ts';

/** Wrong passwords in a row for one name, and from one address, before both must wait; and how long, in seconds. */
const BY_NAME = { points: 8, duration: 600, blockDuration: 60 };
const BY_ADDRESS = { points: 60, duration: 600, blockDuration: 60 };

/** Throttles sign-in by account and by address, and reports the waiting time. */
export class SignInThrottle {
  private readonly byName = new RateLimiterMemory(BY_NAME);
  private readonly byAddress = new RateLimiterMemory(BY_ADDRESS);

  /** Refuses with the waiting time when a name or an address has failed too often. */
  async check(name: string, address: string): Promise<void> {
    const [n, a] = await Promise.all([this.byName.get(keyOf(name)), this.byAddress.get(address)]);
    const wait = Math.max(waitOf(n, BY_NAME.points), waitOf(a, BY_ADDRESS.points));
    if (wait > 0)
      throw new Refused(
        'wait',
        `Too many wrong passwords. Wait ${wait} seconds, then try again; ask the course director for a new password.`,
        {
          wait_s: wait,
        },
      );
  }

  async failed(name: string, address: string): Promise<void> {
    const ignore = (e: unknown): void => {
      if (!(e instanceof RateLimiterRes)) throw e;
    };
    await Promise.all([this.byName.consume(keyOf(name)).catch(ignore), this.byAddress.consume(address).catch(ignore)]);
  }

  async succeeded(name: string): Promise<void> {
    await this.byName.delete(keyOf(name));
  }
}

const keyOf = (name: string): string => name.trim().toLowerCase().slice(0, 200);
const waitOf = (r: RateLimiterRes | null, points: number): number =>
  r && r.consumedPoints > points ? Math.ceil(r.msBeforeNext / 1000) : 0;
