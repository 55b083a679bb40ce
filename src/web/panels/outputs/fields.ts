export const CHANNELS = Array.from({ length: 16 }, (_, i) => i + 1);
