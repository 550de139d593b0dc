import type { Act } from './act';

/** What can be done to slides and to what is on them, beside what text has too. */
export const DECK_ACTS = {
  showSlides: {
    label: $localize`Show the slides`,
    icon: 'show',
    keys: 'alt+s',
    about: $localize`Show the slides full screen, from the one in hand`,
  },
  addSlide: {
    label: $localize`Add a slide`,
    icon: 'add',
    keys: 'alt+a',
    about: $localize`Add a slide behind the one in hand`,
  },
  copySlide: {
    label: $localize`Double the slide`,
    about: $localize`Add the same slide once more behind this one`,
  },
  slideBefore: {
    label: $localize`Move the slide forward`,
    keys: 'alt+pageup',
    about: $localize`Show this slide before the one that it follows`,
  },
  slideAfter: {
    label: $localize`Move the slide back`,
    keys: 'alt+pagedown',
    about: $localize`Show this slide behind the one that follows it`,
  },
  hideSlide: {
    label: $localize`Leave the slide out when showing`,
    about: $localize`Leave this slide out when the slides are shown, or no longer`,
  },
  removeSlide: {
    label: $localize`Remove the slide`,
    about: $localize`Remove this slide with all that is on it`,
  },
  addBox: {
    label: $localize`Text box`,
    icon: 'textBox',
    about: $localize`Put a box for text on this slide`,
  },
  toFront: {
    label: $localize`Bring to the front`,
    about: $localize`Let the box or picture stand before all others`,
  },
  toBack: {
    label: $localize`Send to the back`,
    about: $localize`Let the box or picture stand behind all others`,
  },
  removeThing: {
    label: $localize`Remove this box or picture`,
    about: $localize`Remove the box or picture in hand`,
  },
} satisfies Record<string, Act>;

export type DeckActId = keyof typeof DECK_ACTS;
