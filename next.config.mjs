/** @type {import('next').NextConfig} */
const config = {
  poweredByHeader: false,
  devIndicators: false,
  // Six scripts for a play page: a browser asks for no more at a time, and a tablet far away waits once (chunks as they come are ten).
  // Each part of the program has a frame of its own; an address that leads nowhere has none of them.
  experimental: { globalNotFound: true, inlineCss: true, turbopackChunking: { minChunkSize: 300_000 } },
  serverExternalPackages: ['sequelize', 'sqlite3'],
  // `npm test` checks the types of everything, tests included; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
