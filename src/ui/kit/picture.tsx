import { clsx } from 'clsx';

/** A picture within a conversation, no larger than a bubble. Its words are there for whoever cannot see it. */
export const Picture = ({ src, alt, small = false }: { src: string; alt: string; small?: boolean }) => (
  <img
    src={src}
    alt={alt}
    className={clsx(
      'rounded-control border border-rule bg-sheet object-contain',
      small ? 'h-8 max-w-16' : 'mt-1.5 max-h-56 max-w-full',
    )}
  />
);
