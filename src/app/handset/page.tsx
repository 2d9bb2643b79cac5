import type { Metadata, Viewport } from 'next';
import { Handset } from '@/ui/handset/handset';

export const metadata: Metadata = { title: 'Handset' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default function Page() {
  return <Handset />;
}
