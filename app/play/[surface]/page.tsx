import type { Metadata } from 'next';
import { services } from '../../../src/server/services';
import { PlaySurface } from '../../../src/web/play/PlaySurface';

export const dynamic = 'force-dynamic';

export async function generateMetadata({ params }: { params: Promise<{ surface: string }> }): Promise<Metadata> {
  const { surface: id } = await params;
  const surface = services().desk.current.document.surfaces.find((candidate) => candidate.id === id);
  return surface ? { title: surface.name, manifest: `/play/${encodeURIComponent(id)}/manifest.webmanifest` } : {};
}

export default async function PlayPage({ params }: { params: Promise<{ surface: string }> }) {
  const { surface: id } = await params;
  const { desk, environment } = services();
  const { id: rig, document, revision, stage } = desk.current;
  const surface = document.surfaces.find((candidate) => candidate.id === id);
  if (!surface) {
    return (
      <main className="missing">
        <h1>There is no surface “{id}” in {document.name}.</h1>
        <ul>
          {document.surfaces.map(({ id: other, name }) => (
            <li key={other}>
              <a href={`/play/${other}`}>{name}</a>
            </li>
          ))}
        </ul>
      </main>
    );
  }
  return <PlaySurface surface={surface} played={`${rig} ${revision}`} stage={stage} hubPort={environment.hubPort} />;
}
