/** @type {import('next').NextConfig} */
export default {
  serverExternalPackages: ['better-sqlite3', 'pino'],
  poweredByHeader: false,
  // Pictures are served as they are: nothing that a stranger can ask for is computed.
  images: { unoptimized: true },
  reactStrictMode: true,
  // The lint and types steps of `npm test` run on their own; building twice over would only cost time.
  typescript: { ignoreBuildErrors: true },
  // What runs on the server stays as it is written: it reads well in a trace without maps, and builds in two thirds of the time.
  experimental: { serverMinification: false, turbopackSourceMaps: false },
};
