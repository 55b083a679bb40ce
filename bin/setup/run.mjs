import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The folder of the project, where every command here runs. */
export const ROOT = fileURLToPath(new URL('../../', import.meta.url));

/**
 * Runs a program and waits for it. Its output goes on to the terminal unless it is `quiet`, or only where it fails where it is `modest`;
 * where `tee` is given, to that function too.
 * @returns {Promise<number>} the exit code
 */
export function run(command, args, { env = process.env, cwd = ROOT, quiet = false, modest = false, tee } = {}) {
  return new Promise((resolve) => {
    const output = quiet ? 'ignore' : tee || modest ? 'pipe' : 'inherit';
    const kept = [];
    const child = spawn(command, args, { cwd, env, stdio: ['ignore', output, output] });
    for (const [from, to] of output === 'pipe' ? [[child.stdout, process.stdout], [child.stderr, process.stderr]] : []) {
      from.on('data', (data) => {
        if (modest) kept.push(() => to.write(data));
        else to.write(data);
        tee?.(String(data));
      });
    }
    child.on('error', (error) => {
      console.error(`${command} cannot be started: ${error.message}`);
      resolve(127);
    });
    child.on('close', (code) => {
      if (code !== 0) for (const write of kept) write();
      resolve(code ?? 1);
    });
  });
}
