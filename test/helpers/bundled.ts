import { build } from 'rolldown';

/** A script of the tests, with all that it is made of, for a page that has nothing else. */
export async function bundled(input: string): Promise<string> {
  const { output } = await build({ input, platform: 'browser', output: { format: 'iife', codeSplitting: false }, write: false, logLevel: 'silent' });
  return output[0].code;
}
