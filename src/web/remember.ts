/** What is remembered under a key. Where the browser forbids that or has no room, the page remembers it as long as it is there. */
export class Memory {
  private readonly here = new Map<string, string>();

  constructor(private readonly storage: () => Pick<Storage, 'getItem' | 'setItem'>) {}

  get(key: string): string | null {
    try {
      return this.here.get(key) ?? this.storage().getItem(key);
    } catch {
      return null;
    }
  }

  set(key: string, value: string): void {
    try {
      this.storage().setItem(key, value);
      this.here.delete(key);
    } catch {
      this.here.set(key, value);
    }
  }
}

/** Is there tomorrow, and in every window. */
export const ofBrowser = new Memory(() => localStorage);
/** Is there when this window loads a page anew. */
export const ofWindow = new Memory(() => sessionStorage);
