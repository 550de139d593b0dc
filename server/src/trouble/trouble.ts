/** Something that went wrong in a way the caller can act on, with its HTTP status. */
export class Trouble extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail?: string,
    readonly errors?: readonly { path: string; message: string }[],
  ) {
    super(detail ?? title);
    this.name = 'Trouble';
  }

  static field(path: string, message: string): Trouble {
    return new Trouble(422, 'Some of this cannot be taken', `${path} ${message}`, [{ path, message }]);
  }
}
