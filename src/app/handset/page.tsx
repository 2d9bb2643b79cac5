import type { Metadata, Viewport } from 'next';
import { notFound } from 'next/navigation';
import { Handset } from '@/ui/handset/handset';
import { reached } from '../services';

export const metadata: Metadata = { title: 'Handset' };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default function Page() {
  if (!reached().standIns) notFound();
  return <Handset />;
}
