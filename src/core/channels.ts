/** The four ways a contact can come in. Text channels can be held several at once. */
export const CHANNELS = ['voice', 'chat', 'messaging', 'sms'] as const;
export type Channel = (typeof CHANNELS)[number];

/** How a channel is named to people, with the letter that marks it beside its colour and shape. */
export const CHANNEL_NAMES: Readonly<Record<Channel, { name: string; letter: string }>> = {
  voice: { name: 'Voice', letter: 'V' },
  chat: { name: 'Chat', letter: 'C' },
  messaging: { name: 'Messaging', letter: 'M' },
  sms: { name: 'SMS', letter: 'S' },
};

export const isText = (channel: Channel): boolean => channel !== 'voice';
