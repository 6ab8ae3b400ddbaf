import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import '@fontsource-variable/fraunces/index.css';
import '@fontsource/ibm-plex-sans/400.css';
import '@fontsource/ibm-plex-sans/400-italic.css';
import '@fontsource/ibm-plex-sans/500.css';
import '@fontsource/ibm-plex-sans/600.css';
import '@/ui/theme/theme.scss';

export const metadata: Metadata = { title: { default: 'Nest Egg', template: '%s · Nest Egg' } };

/** Pages carry a fresh script nonce, so none of them is made ahead of time. */
export const dynamic = 'force-dynamic';

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
