import { join } from 'node:path';
import type { NextConfig } from 'next';

const root = join(import.meta.dirname, '..');

const config: NextConfig = {
  transpilePackages: ['@dusk-tally/core', '@dusk-tally/lab', '@dusk-tally/store'],
  serverExternalPackages: [
    'sequelize',
    'mariadb',
    'umzug',
    '@node-rs/argon2',
    'piscina',
    '@react-pdf/renderer',
    'sharp',
    'fontkit',
  ],
  turbopack: { root },
  outputFileTracingRoot: root,
  // Types are checked on their own, by npm test; the build does not do it a second time.
  typescript: { ignoreBuildErrors: true },
  // Where something in front of it compresses, or where bytes cost nothing, it need not.
  compress: process.env.DUSK_COMPRESS !== '0',
  poweredByHeader: false,
  devIndicators: false,
  experimental: {
    serverActions: { bodySizeLimit: '4mb' },
    // A dropped connection while a page is renewed waits instead of leaving the page.
    useOffline: true,
  },
  headers: async () => [
    {
      source: '/(.*)',
      headers: [
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'X-Frame-Options', value: 'DENY' },
        { key: 'Referrer-Policy', value: 'same-origin' },
      ],
    },
  ],
};

export default config;
