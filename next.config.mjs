/** @type {import('next').NextConfig} */
const config = {
  poweredByHeader: false,
  devIndicators: false,
  // Each part of the program has a frame of its own; an address that leads nowhere has none of them.
  experimental: { globalNotFound: true, inlineCss: true },
  serverExternalPackages: ['sequelize', 'sqlite3'],
  // `npm test` checks the types of everything, tests included; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
