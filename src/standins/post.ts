/** What leaves the product for somebody outside. Real services stand behind the same interface. */
export type Post = {
  readonly mail: (to: string, subject: string, body: string) => void;
  readonly text: (to: string, body: string) => void;
  /** Rings a number and speaks. */
  readonly call: (to: string, spoken: string) => void;
};
export type Posted = {
  readonly medium: 'mail' | 'text' | 'call';
  readonly address: string;
  readonly subject: string;
  readonly body: string;
};

/**
 * The stand-in: nothing leaves the machine, everything is kept to be read in the mailbox that ships with the product.
 */
export const createStandInPost = (keep: (posted: Posted) => void): Post => ({
  mail: (address, subject, body) => keep({ medium: 'mail', address, subject, body }),
  text: (address, body) => keep({ medium: 'text', address, subject: '', body }),
  call: (address, body) => keep({ medium: 'call', address, subject: '', body }),
});
