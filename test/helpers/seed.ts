import fc from 'fast-check';

/** The same runs every time; `PUMICE_SEED=random npm run unit` looks elsewhere, any number repeats those. */
const wanted = process.env.PUMICE_SEED ?? '20261123';
if (wanted !== 'random') fc.configureGlobal({ seed: Number(wanted) });
