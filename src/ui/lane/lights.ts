/** House lights: the theme a person chose, kept in a cookie so that pages come in the right one. */
export const LIGHTS_COOKIE = 'lane_lights';
export type Lights = 'up' | 'down';
/** Without a choice the Floor is dark and all else light. */
export const lightsOn = (path: string, chosen: Lights | null): Lights =>
  chosen ?? (path.startsWith('/floor') ? 'down' : 'up');
