/**
 * What a use case throws where it cannot do what was asked. It knows nothing of how this is told: faces
 * (screens, an API, the command line) turn it into answers and words of their own.
 */
import { fault as faultOf } from '../core/fault.ts';
import type { Fault } from '../core/fault.ts';

export type Reason =
  | 'signedOut'
  | 'notAllowed'
  | 'gone'
  | 'invalid'
  | 'tooLarge'
  | 'tooMany'
  | 'away'
  | 'noRoom';

/**
 * - `signedOut`: nobody is signed in
 * - `notAllowed`: the role does not suffice
 * - `gone`: it is not there, or not in this workspace; the two are not told apart
 * - `invalid`: what was sent cannot be kept or read; `fault` says why
 * - `tooLarge`: it is more than is taken in
 * - `tooMany`: more requests than a person may make
 * - `away`: the database or another process of ours does not answer
 * - `noRoom`: the disk is full
 */
export class Refusal extends Error {
  constructor(
    readonly reason: Reason,
    readonly fault: Fault | null = null,
  ) {
    super(fault === null ? reason : `${fault.code} ${JSON.stringify(fault.detail)}`);
  }
}

/** What was asked for is not there. */
export const gone = (): Refusal => new Refusal('gone');

/** What was sent cannot be kept or read. */
export const refused = (...said: Parameters<typeof faultOf>): Refusal =>
  new Refusal('invalid', faultOf(...said));
