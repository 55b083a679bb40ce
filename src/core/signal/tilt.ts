const DEGREES = 180 / Math.PI;

/**
 * Tilt in degrees from the three axes of a resting accelerometer (any unit, they share it): x to the right, y forwards, z
 * upwards out of the device. Flat is 0 for both. Pitch is the rise of the front edge, -90 to 90; roll the lowering of the
 * right edge, -180 to 180. No gravity at all gives 0.
 */
export function pitchDeg(x: number, y: number, z: number): number {
  return Math.atan2(y, Math.hypot(x, z)) * DEGREES;
}

export function rollDeg(x: number, _y: number, z: number): number {
  return x === 0 && z === 0 ? 0 : Math.atan2(x, z) * DEGREES;
}
