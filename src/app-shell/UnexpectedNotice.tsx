import { t } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import { FotoplanError } from '../../core/errors';
import { NoticeBar } from './NoticeBar';
import { errorText } from '../i18n/errorText';

/** Something that nobody waited for went wrong: it is said, not swallowed. */
export function UnexpectedNotice() {
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    const tell = ({ reason }: PromiseRejectionEvent): void => {
      if (reason instanceof FotoplanError && reason.code === 'CANCELLED') return;
      setProblem(
        errorText(reason, t`Something did not work just now. What was saved before is still here; do it again.`),
      );
    };
    window.addEventListener('unhandledrejection', tell);
    return () => window.removeEventListener('unhandledrejection', tell);
  }, []);
  if (problem === null) return null;
  return <NoticeBar role="alert" kind="error" text={problem} onClose={() => setProblem(null)} />;
}
