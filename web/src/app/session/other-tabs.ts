/** What tabs of one browser tell each other: who is signed in there by now; null for nobody. */
interface Word {
  readonly person: string | null;
}

/** Tells the other tabs of this browser, which have one session together, who is signed in, and hears it from them. */
export class OtherTabs {
  private readonly channel = new BroadcastChannel('oxbow-session');

  tell(person: string | null): void {
    this.channel.postMessage({ person } satisfies Word);
  }

  /** Calls back with who signed in in another tab, or null where they signed out. Answers how to stop that. */
  hear(act: (person: string | null) => void): () => void {
    const heard = ({ data }: MessageEvent<Word>): void => act(data.person);
    this.channel.addEventListener('message', heard);
    return () => {
      this.channel.removeEventListener('message', heard);
      this.channel.close();
    };
  }
}
