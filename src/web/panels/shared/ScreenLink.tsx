import Link from 'next/link';
import { useState, type ComponentProps } from 'react';

/**
 * A link to another screen, which is asked for when somebody is about to follow it. All links of a screen at once (as they are asked for
 * otherwise) cost the computer that plays eight screens where one is looked at.
 */
export function ScreenLink(props: Omit<ComponentProps<typeof Link>, 'prefetch' | 'onMouseEnter' | 'onFocus'>) {
  const [isNear, setNear] = useState(false);
  const near = () => setNear(true);
  return <Link {...props} prefetch={isNear ? null : false} onMouseEnter={near} onFocus={near} />;
}
