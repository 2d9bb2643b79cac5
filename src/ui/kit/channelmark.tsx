import { CHANNEL_NAMES, type Channel } from '@/core/channels';

/** A channel's own shape: circle, rounded square, hexagon, diamond. Colour and letter go with it. */
const SHAPES: Readonly<Record<Channel, { fill: string; path: string }>> = {
  voice: { fill: 'var(--mark-voice)', path: 'M12 2a10 10 0 1 0 0 20a10 10 0 1 0 0-20z' },
  chat: { fill: 'var(--mark-chat)', path: 'M7 3h10a4 4 0 0 1 4 4v10a4 4 0 0 1-4 4H7a4 4 0 0 1-4-4V7a4 4 0 0 1 4-4z' },
  messaging: { fill: 'var(--mark-messaging)', path: 'M7 2.5h10l5 9.5l-5 9.5H7L2 12z' },
  sms: { fill: 'var(--mark-sms)', path: 'M12 .8L23.2 12L12 23.2L.8 12z' },
};

export function ChannelMark({ channel, size = 18, ring = false }: { channel: Channel; size?: number; ring?: boolean }) {
  const { name, letter } = CHANNEL_NAMES[channel];
  return (
    <svg role="img" aria-label={name} width={size} height={size} viewBox="0 0 24 24" className="inline-block shrink-0">
      <title>{name}</title>
      <path
        d={SHAPES[channel].path}
        fill={SHAPES[channel].fill}
        stroke={ring ? 'var(--lamp)' : 'var(--mark-ink)'}
        strokeOpacity={ring ? 1 : 0.35}
        strokeWidth={ring ? 2.5 : 1}
      />
      <text
        x="12"
        y="16.2"
        textAnchor="middle"
        fontSize="11.5"
        fontWeight="700"
        fill="var(--mark-ink)"
        fontFamily="var(--font-body)"
      >
        {letter}
      </text>
    </svg>
  );
}
export const ChannelMarks = ({ channels, size }: { channels: readonly Channel[]; size?: number }) => (
  <span className="inline-flex gap-1 align-middle">
    {channels.map((c) => (
      <ChannelMark key={c} channel={c} {...(size ? { size } : {})} />
    ))}
  </span>
);
