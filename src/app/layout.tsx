import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/hanken-grotesk';
import './globals.css';
import type { Metadata } from 'next';
import { cookies, headers } from 'next/headers';
import type { ReactNode } from 'react';
import { LIGHTS_COOKIE } from '@/ui/lane/lights';

export const metadata: Metadata = {
  title: { default: 'Usher Lane', template: '%s · Usher Lane' },
  description: 'Bots, routing, people and how the day went.',
  icons: { icon: '/mark.svg' },
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Reading the request makes every page dynamic, so that each gets the nonce of its own content policy.
  await headers();
  const chosen = (await cookies()).get(LIGHTS_COOKIE)?.value;
  return (
    <html lang="en" data-lights={chosen === 'down' ? 'down' : 'up'} suppressHydrationWarning>
      <body>{children}</body>
    </html>
  );
}
