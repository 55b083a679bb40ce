import { ProblemError } from '../../../../src/protocol/problem';
import { handle } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

/** What a device needs to install one surface as an app: its name, its orientation, and that it wants the whole screen. */
export function GET(request: Request, { params }: { params: Promise<{ surface: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { surface: id } = await params;
    const surface = services().desk.current.document.surfaces.find((candidate) => candidate.id === id);
    if (!surface) throw new ProblemError('not-found', 'surface', `There is no surface "${id}" in the open rig.`);
    return {
      id: `/play/${id}`,
      name: `${surface.name}, a surface of Pumice`,
      short_name: surface.name,
      start_url: `/play/${encodeURIComponent(id)}`,
      scope: '/play/',
      display: 'fullscreen',
      orientation: surface.width >= surface.height ? 'landscape' : 'portrait',
      background_color: '#15171a',
      theme_color: '#15171a',
      icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
    };
  });
}
