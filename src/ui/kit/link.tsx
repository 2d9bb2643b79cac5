'use client';

import NextLink from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A way to another page of the application. Pages are read when they are opened: read ahead, each link of a page would ask
 * the server, whose thread routes contacts, for something that is old by the time it is wanted.
 */
export function Link(props: Omit<ComponentProps<typeof NextLink>, 'prefetch'>) {
  return <NextLink {...props} prefetch={false} />;
}
