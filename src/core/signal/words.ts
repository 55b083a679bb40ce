import type { Amount, Formula } from '../rig/document';

const JOINED = { sum: ' + ', difference: ' − ', product: ' × ' } as const;
const NAMED = { minimum: 'the lowest of', maximum: 'the highest of', average: 'the average of' } as const;

/** A formula in words, as `the highest of Fog and Swell`. `nameOf` gives the name of a signal by its id. */
export function formulaInWords(formula: Formula, nameOf: (signal: string) => string): string {
  const amount = (value: Amount, unit = '') => (typeof value === 'number' ? `${value}${unit}` : nameOf(value.signal));
  const all = (ids: readonly string[]) => listed(ids.map(nameOf));
  switch (formula.op) {
    case 'sum':
    case 'difference':
    case 'product':
      return formula.of.map(nameOf).join(JOINED[formula.op]);
    case 'minimum':
    case 'maximum':
    case 'average':
      return `${NAMED[formula.op]} ${all(formula.of)}`;
    case 'distance':
      return `how far ${all(formula.from)} is from ${all(formula.to)}`;
    case 'magnitude':
      return `the length of ${all(formula.of)} together`;
    case 'tilt':
      return `the ${formula.axis} that gravity shows in ${all(formula.of)}`;
    case 'speed':
      return `how fast ${nameOf(formula.of)} changes, per second`;
    case 'accumulate':
      return `${nameOf(formula.of)} added up over time, from ${formula.lo} to ${formula.hi}${formula.leakPerS ? `, leaking ${formula.leakPerS} of itself a second` : ''}`;
    case 'envelope':
      return `${nameOf(formula.of)} followed, ${formula.attackMs} ms up and ${formula.releaseMs} ms down`;
    case 'hold':
      return `${nameOf(formula.of)} as it was when ${nameOf(formula.gate)} went on`;
    case 'oscillator':
      return `a ${formula.shape === 'random' ? 'random step' : formula.shape} at ${amount(formula.rateHz, ' Hz')}, ${amount(formula.depth)} deep`;
    case 'constant':
      return `always ${formula.value}`;
    default:
      return formula satisfies never;
  }
}

function listed(names: readonly string[]): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}
