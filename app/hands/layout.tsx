import type { Metadata, Viewport } from 'next';
import { DeviceFrame } from '../DeviceFrame';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Pumice: hands', description: 'Hands before a camera become notes and controllers' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default DeviceFrame;
