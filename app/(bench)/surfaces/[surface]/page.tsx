import { Designer } from '../../../../src/web/panels/designer/Designer';

/** One surface on the canvas of the designer. */
export default async function DesignerPage({ params }: { params: Promise<{ surface: string }> }) {
  return <Designer surfaceId={(await params).surface} />;
}
