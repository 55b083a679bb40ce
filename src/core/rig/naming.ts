const ID_LENGTH = 64;

/** An id made of a name, unlike all that are taken; it is taken from then on. */
export function freeId(name: string, taken: Set<string>): string {
  const plain = name
    .normalize('NFKD')
    .replace(/\p{Mark}+/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9.]+/g, '-')
    .slice(0, ID_LENGTH - 6)
    .replace(/^[-.]+|[-.]+$/g, '');
  const stem = plain === '' ? 'thing' : plain;
  let id = stem;
  for (let n = 2; taken.has(id); n++) id = `${stem}-${n}`;
  taken.add(id);
  return id;
}

/** The name, or with a number behind it where it is taken: `Lantern`, `Lantern 2`. */
export function freeName(name: string, taken: readonly string[]): string {
  let free = name;
  for (let n = 2; taken.includes(free); n++) free = `${name} ${n}`;
  return free;
}
