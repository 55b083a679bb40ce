import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  devIndicators: false,
  serverExternalPackages: ['sequelize', 'sqlite3'],
  // `npm test` checks the types of everything, tests included; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
