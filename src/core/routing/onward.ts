import type { Localised } from '../localised';

/**
 * What happens to a contact that is not to wait here (any longer). `queue` keeps the wait; `scene` sends it back to a
 * bot.
 */
export type Onward =
  | { readonly to: 'end'; readonly wording: Localised }
  | { readonly to: 'message'; readonly wording: Localised }
  | { readonly to: 'callback' }
  | { readonly to: 'queue'; readonly queueId: string }
  | { readonly to: 'group'; readonly groupId: string }
  | { readonly to: 'partner'; readonly partnerId: string }
  | { readonly to: 'scene'; readonly botId: string; readonly sceneId: string };
