/** A file that is no drawing of ours to read: what was found, and what to do. */
export class Unreadable extends Error {
  readonly remedy: string;

  constructor(found: string, remedy: string) {
    super(found);
    this.remedy = remedy;
  }
}
