/** Something that can be done, as it is called everywhere: on buttons, in menus, in help and in the list of commands. */
export interface Act {
  readonly label: string;
  /** The icon that stands for it, where one does. */
  readonly icon?: string;
  /** The keys that do it, such as `c`, `alt+t` or `mod+/`; `mod` is Ctrl, or Command where there is one. */
  readonly keys?: string;
  /** What it does, in a sentence. */
  readonly about: string;
}
