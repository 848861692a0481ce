/** A line on a terminal that says how far a command is. */
export interface Progress {
  /** One more is done. */
  readonly step: () => void;
  /** Takes the line away, so that what follows stands on its own. */
  readonly clear: () => void;
}

/** Nothing is shown where nobody looks: standard error is no terminal, or quiet was asked for. */
export function showProgress(total: number, quiet: boolean): Progress {
  const { stderr } = process;
  if (quiet || !stderr.isTTY || total < 2) return { step: () => undefined, clear: () => undefined };
  let done = 0;
  const show = (): void => void stderr.write(`\r\u001b[K${done} of ${total} done …`);
  show();
  return {
    step: () => {
      done++;
      show();
    },
    clear: () => void stderr.write('\r\u001b[K'),
  };
}
