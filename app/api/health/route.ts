import { handle } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** Whether everything runs and the hub plays the rig as it is now, and which processes they are. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => {
    const { desk, link, environment } = services();
    const { id, revision, stage } = desk.current;
    return {
      ok: link.connected && link.plays?.rig === id && link.plays.revision === revision,
      rig: id,
      revision,
      stage,
      supervisor: { pid: process.ppid },
      web: { pid: process.pid, port: environment.port, memoryMb: Math.round(process.memoryUsage.rss() / 1e6) },
      hub: { connected: link.connected, pid: link.hubPid, port: environment.hubPort },
    };
  });
}
