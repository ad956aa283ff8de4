/** How a site calls itself, and where it says that it is, without a slash at its end. */
export interface PracticeIdentity {
  readonly name: string;
  readonly base: string;
}
