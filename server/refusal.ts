/**
 * What a use case throws where it cannot do what was asked. It knows nothing of how this is told: faces
 * (screens, an API) turn it into answers of their own.
 */
export type Reason = 'signedOut' | 'notAllowed' | 'gone' | 'invalid' | 'tooMany' | 'away';

/**
 * - `signedOut`: nobody is signed in
 * - `notAllowed`: the role does not suffice
 * - `gone`: it is not there, or not in this workspace; the two are not told apart
 * - `invalid`: what was sent cannot be kept; `message` says why and what to do
 * - `tooMany`: more requests than a person may make
 * - `away`: the database or another process of ours does not answer
 */
export class Refusal extends Error {
  constructor(
    readonly reason: Reason,
    message = '',
  ) {
    super(message);
  }
}

/** What was asked for is not there. */
export const gone = (): Refusal => new Refusal('gone');
