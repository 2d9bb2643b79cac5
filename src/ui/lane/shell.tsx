'use client';

import { clsx } from 'clsx';
import { Link } from '../kit/link';
import { usePathname } from 'next/navigation';
import { type ReactNode, useEffect, useState } from 'react';
import { Toaster } from 'sonner';
import type { Right } from '@/core/people/rights';
import type { StripView as FloorStrip } from '@/services/floor/strip';
import { asShare } from '../kit/figures';
import { Live, useLinkUp, useLive } from '../kit/live';
import { Account } from './account';
import { GoTo } from './goto';
import { KeysSheet } from './keyssheet';
import { type Lights, LIGHTS_COOKIE, lightsOn } from './lights';
import { type Viewer, ViewerContext } from './viewer';

type StripView = FloorStrip & { readonly toFix: number };
type Stop = {
  readonly path: string;
  readonly name: string;
  readonly right: Right;
  readonly figure: (s: StripView) => { text: string; warn?: string };
};
const STOPS: readonly Stop[] = [
  {
    path: '/doors',
    name: 'Doors',
    right: 'settings.view',
    figure: (s) => ({
      text: `${s.doorsOpen} open`,
      ...(s.byHand ? { warn: `${s.byHand} by hand` } : {}),
    }),
  },
  {
    path: '/bots',
    name: 'Bots',
    right: 'settings.view',
    figure: (s) => ({
      text: `${s.botsLive} live`,
      ...(s.drafts !== null && s.drafts > 0 ? { warn: `${s.drafts} ${s.drafts === 1 ? 'draft' : 'drafts'}` } : {}),
    }),
  },
  { path: '/queues', name: 'Queues', right: 'settings.view', figure: (s) => ({ text: `${s.waiting} waiting` }) },
  { path: '/people', name: 'People', right: 'people.view', figure: (s) => ({ text: `${s.onDuty} of ${s.people} on` }) },
  {
    path: '/floor',
    name: 'Floor',
    right: 'floor.view',
    figure: (s) => (s.late !== null && s.late > 0 ? { text: '', warn: `${s.late} late` } : { text: 'none late' }),
  },
  { path: '/review', name: 'Review', right: 'review.view', figure: (s) => ({ text: `${asShare(s.inGoal)} in goal` }) },
];

function Strip({ viewer, initial, path }: { viewer: Viewer; initial: StripView | null; path: string }) {
  const { data } = useLive<StripView>(
    '/api/read/strip',
    ['visit.began', 'visit.ended', 'person.duty', 'settings.changed', 'leg.began'],
    initial ?? undefined,
  );
  const stops = STOPS.filter((stop) => viewer.rights.includes(stop.right));
  return (
    <nav aria-label="The lane" className="flex min-w-0 flex-1 justify-center">
      <ol className="flex items-start">
        {stops.map((stop, i) => {
          const here = path.startsWith(stop.path);
          const figure = data ? stop.figure(data) : null;
          return (
            <li key={stop.path} className="flex items-start">
              {i > 0 && (
                <span aria-hidden className="mt-[11px] w-2 border-t-2 border-dashed border-strip-line xl:w-12" />
              )}
              <Link
                href={stop.path}
                aria-current={here ? 'page' : undefined}
                className="group flex min-w-[78px] flex-col items-center xl:min-w-[86px]"
              >
                <span
                  className={clsx(
                    'rounded-full px-3 py-px font-display text-[14px] font-semibold',
                    here ? 'bg-lamp text-strip' : 'text-on-strip group-hover:text-lamp',
                  )}
                >
                  {stop.name}
                </span>
                <span className="mt-0.5 text-tiny whitespace-nowrap text-strip-2">
                  {figure ? (
                    <>
                      {figure.text}
                      {figure.warn && (
                        <span className="text-strip-warn">
                          {figure.text ? ' · ' : ''}
                          {figure.warn}
                        </span>
                      )}
                    </>
                  ) : (
                    ' '
                  )}
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

/** How many faults keep contacts away; the way to all of them. */
function ToFix({ initial, here }: { initial: StripView; here: boolean }) {
  const { data } = useLive<StripView>(
    '/api/read/strip',
    ['visit.began', 'visit.ended', 'person.duty', 'settings.changed', 'leg.began'],
    initial,
  );
  const n = (data ?? initial).toFix;
  return (
    <Link
      href="/tofix"
      aria-current={here ? 'page' : undefined}
      className={clsx(
        'rounded-control border px-2.5 py-1 text-small font-semibold whitespace-nowrap',
        here
          ? 'border-lamp bg-lamp text-strip'
          : n > 0
            ? 'border-strip-warn text-strip-warn hover:border-lamp'
            : 'border-strip-line text-strip-2 hover:border-lamp',
      )}
    >
      {n === 0 ? 'To fix' : `${n} to fix`}
    </Link>
  );
}

const LinkNotice = () =>
  useLinkUp() ? null : (
    <p role="status" className="bg-brass-wash px-4 py-1 text-center text-small text-brass-ink">
      The live connection is interrupted. What you see may be old; it is being restored.
    </p>
  );

/** Everything around a page: the lane strip, go-to, keys, lights, account. */
export function Shell({
  viewer,
  strip,
  after,
  chosenLights,
  children,
}: {
  viewer: Viewer;
  strip: StripView | null;
  after: number;
  chosenLights: Lights | null;
  children: ReactNode;
}) {
  const path = usePathname();
  const [chosen, setChosen] = useState(chosenLights);
  const lights = lightsOn(path, chosen);
  useEffect(() => {
    document.documentElement.dataset.lights = lights;
  }, [lights]);
  const choose = (next: Lights) => {
    document.cookie = `${LIGHTS_COOKIE}=${next}; path=/; max-age=31536000; samesite=lax`;
    setChosen(next);
  };
  return (
    <Live after={after}>
      <div data-lights={lights} className="flex min-h-screen flex-col bg-paper text-ink">
        <a
          href="#main"
          className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-lamp focus:px-3 focus:py-1 focus:text-strip"
        >
          Skip to the page
        </a>
        <header className="flex h-16 shrink-0 items-center gap-3 bg-strip px-4 text-on-strip">
          <Link href="/" className="flex items-center gap-2.5 font-display text-[17px] font-semibold whitespace-nowrap">
            <img src="/mark.svg" alt="" width={26} height={26} />
            <span className="max-xl:sr-only">Usher Lane</span>
          </Link>
          {strip ? (
            <Strip viewer={viewer} initial={strip} path={path} />
          ) : (
            <nav aria-label="Pages" className="flex-1 pl-6">
              <Link
                href="/desk"
                aria-current="page"
                className="rounded-full bg-lamp px-3 py-px font-display font-semibold text-strip"
              >
                Desk
              </Link>
            </nav>
          )}
          <div className="flex items-center gap-2.5">
            {strip && viewer.rights.includes('desk.work') && (
              <Link
                href="/desk"
                aria-current={path.startsWith('/desk') ? 'page' : undefined}
                className={clsx(
                  'rounded-full px-2.5 py-px font-display text-[14px] font-semibold',
                  path.startsWith('/desk') ? 'bg-lamp text-strip' : 'text-on-strip hover:text-lamp',
                )}
              >
                Desk
              </Link>
            )}
            {strip && viewer.rights.includes('people.view') && (
              <ToFix initial={strip} here={path.startsWith('/tofix')} />
            )}
            <GoTo viewer={viewer} />
            <KeysSheet path={path} />
            <Account viewer={viewer} lights={lights} onLights={choose} />
          </div>
        </header>
        <LinkNotice />
        <div id="main" tabIndex={-1} className="min-h-0 flex-1">
          <ViewerContext value={viewer}>{children}</ViewerContext>
        </div>
      </div>
      <Toaster
        position="bottom-center"
        theme={lights === 'down' ? 'dark' : 'light'}
        toastOptions={{ duration: 6000 }}
        style={{ fontFamily: 'inherit' }}
      />
    </Live>
  );
}
