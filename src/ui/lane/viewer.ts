'use client';

import { createContext, useContext } from 'react';
import type { Right } from '@/core/people/rights';

/** Who looks at the page, and what they may do. */
export type Viewer = {
  readonly name: string;
  readonly role: string;
  readonly rights: readonly Right[];
  /** Whether their rights hold for all teams. */ readonly everybody: boolean;
  readonly zone: string;
  /** Whether simulated telephones may be used here. */ readonly standIns: boolean;
};

export const ViewerContext = createContext<Viewer | null>(null);
export const useViewer = (): Viewer | null => useContext(ViewerContext);
/** Whether the viewer holds a right. Pages only hide by it; services refuse. */
export const useHolds = (): ((right: Right) => boolean) => {
  const viewer = useContext(ViewerContext);
  return (right) => viewer?.rights.includes(right) ?? false;
};
