/** A process of its own that loads pages and writes the database until its parent goes; argv: the address of Pumice. */
const url = process.argv[2]!;
const done = { pages: 0, edits: 0 };
process.on('message', () => process.send!(done));
process.on('disconnect', () => process.exit(0));

async function pages(): Promise<never> {
  for (;;) {
    await (await fetch(`${url}/mappings`)).text();
    done.pages++;
  }
}

async function edits(): Promise<never> {
  for (;;) {
    const message = { kind: 'note', channel: 10, note: 50, velocity: 1 + (done.edits % 127) };
    await fetch(`${url}/api/rigs/night-ferry/edits`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ edit: { kind: 'setMapping', mapping: 'doors', set: { message } } }),
    });
    done.edits++;
  }
}

void Promise.all([pages(), edits()]);
