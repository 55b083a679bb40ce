import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ProblemError } from '../protocol/problem';

const PACKAGE = '@mediapipe/hands';
const TYPES: Readonly<Record<string, string>> = { js: 'text/javascript', wasm: 'application/wasm', data: 'application/octet-stream', tflite: 'application/octet-stream', binarypb: 'application/octet-stream' };

interface ServedFile {
  bytes: Uint8Array;
  type: string;
}

/** The package that finds hands, its models and our worker around it, as the pages load them. */
export class HandsFiles {
  readonly version: string;
  private readonly folder: string;
  private readonly tracker: string;

  /** @param from the module that the program runs as: the worker lies beside it */
  constructor(from: string) {
    const require = createRequire(from);
    const manifest = require.resolve(`${PACKAGE}/package.json`);
    this.folder = dirname(manifest);
    this.version = (require(manifest) as { version: string }).version;
    this.tracker = join(dirname(fileURLToPath(from)), 'handsTracker.js');
  }

  /** A file of the package, by its version, so that a browser may keep it for good. */
  async model(version: string, file: string): Promise<ServedFile> {
    const type = TYPES[/^\w+\.(\w+)$/.exec(file)?.[1] ?? ''];
    if (version !== this.version || type === undefined) throw new ProblemError('not-found', 'file', `There is no ${file} of ${version} here: load the page of the hands anew.`);
    const bytes = await readFile(join(this.folder, file)).catch(() => {
      throw new ProblemError('not-found', 'file', `The hand model is missing ${file}: install Pumice again with npm ci.`);
    });
    return { bytes, type };
  }

  async worker(): Promise<ServedFile> {
    return { bytes: await readFile(this.tracker), type: TYPES.js! };
  }
}
