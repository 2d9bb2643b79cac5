/**
 * One line on the standard error that rewrites itself: what is being done, how far it is, and about how long everything
 * still takes. Where nobody watches (no terminal) each step is one line, so that a log stays readable.
 */
export function progressLine(steps) {
  const live = process.stderr.isTTY;
  const began = new Map();
  let shown = '';
  /** Seconds still to go: what is measured of the step under way, what is usual of those to come. */
  const left = (name, share) => {
    const at = steps.findIndex((s) => s.name === name);
    const spent = (Date.now() - (began.get(name) ?? Date.now())) / 1000;
    const usual = steps[at]?.seconds ?? 0;
    const own = share > 0.05 ? (spent / share) * (1 - share) : Math.max(usual - spent, 1);
    return Math.round(own + steps.slice(at + 1).reduce((n, s) => n + s.seconds, 0));
  };
  const write = (text) => {
    if (!live) return void (text !== shown && process.stderr.write(`${text}\n`));
    process.stderr.write(`\r${text.padEnd(shown.length)}`);
    shown = text;
  };
  let current = null;
  const tick = live ? setInterval(() => current && render(), 1000) : null;
  tick?.unref();
  function render() {
    const { name, words, share } = current;
    write(`${words}${live ? ` · about ${left(name, share)} s left` : ''}`);
  }
  return {
    /** Says that a step is under way; `words` may say how far, `share` is from 0 to 1. */
    at(name, words, share = 0) {
      if (!began.has(name)) began.set(name, Date.now());
      const sameStep = current?.name === name;
      current = { name, words, share };
      if (live || !sameStep) render();
    },
    end() {
      if (tick) clearInterval(tick);
      current = null;
      if (live && shown) process.stderr.write(`\r${' '.repeat(shown.length)}\r`);
    },
  };
}
