import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'piscina', 'date-holidays', 'nodemailer', 'pdfmake'],
  poweredByHeader: false,
  reactStrictMode: true,
  // Bootstrap 5 still uses Sass features that are on their way out; its own warnings are not ours to mend.
  sassOptions: { quietDeps: true, silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'] },
  devIndicators: false,
  experimental: { optimizePackageImports: ['react-bootstrap', 'react-bootstrap-icons'] },
};

export default config;
