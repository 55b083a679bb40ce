import type { Metadata, Viewport } from 'next';
import { DeviceFrame } from '../DeviceFrame';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Pumice: listening', description: 'A microphone becomes notes, drums and controllers' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default DeviceFrame;
