import { services } from '../../src/server/services';
import { MotionPage } from '../../src/web/motion/MotionPage';

export const dynamic = 'force-dynamic';

/** A phone or tablet that opens this page becomes an input by the way it is held and swung. */
export default function Page() {
  return <MotionPage hubPort={services().environment.hubPort} />;
}
