import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { holds, LANE_RIGHTS } from '@/core/people/rights';
import { LIGHTS_COOKIE } from '@/ui/lane/lights';
import { Shell } from '@/ui/lane/shell';
import { reached, services, signedIn } from '../services';
import { workspaceZone } from '../zone';

export default async function LaneLayout({ children }: { children: ReactNode }) {
  const actor = await signedIn();
  const s = services();
  const chosen = (await cookies()).get(LIGHTS_COOKIE)?.value;
  return (
    <Shell
      viewer={{
        name: actor.name,
        role: actor.roleName,
        rights: actor.rights,
        everybody: actor.teams === 'all',
        zone: workspaceZone(),
        standIns: reached().standIns,
      }}
      strip={LANE_RIGHTS.some((right) => holds(actor, right)) ? s.strip(actor) : null}
      after={s.floorView.position()}
      chosenLights={chosen === 'up' || chosen === 'down' ? chosen : null}
    >
      {children}
    </Shell>
  );
}
