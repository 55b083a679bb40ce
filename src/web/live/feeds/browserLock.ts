/** Takes a lock of this browser, so that of its windows one alone has a device; gives what lets go of it, or null where another has it. */
export function browserLock(name: string): Promise<(() => void) | null> {
  return new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (held) => {
      if (!held) return resolve(null);
      return new Promise<void>((unlock) => resolve(unlock));
    });
  });
}
