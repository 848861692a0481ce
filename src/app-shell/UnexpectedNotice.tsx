import X from 'lucide-react-native/icons/x';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { FotoplanError } from '../../core/errors';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';

/** Something that nobody waited for went wrong: it is said, not swallowed. */
export function UnexpectedNotice() {
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    const tell = ({ reason }: PromiseRejectionEvent): void => {
      if (reason instanceof FotoplanError && reason.code === 'CANCELLED') return;
      setProblem(
        reason instanceof FotoplanError
          ? reason.message
          : 'Something did not work just now. What was saved before is still here; do it again.',
      );
    };
    window.addEventListener('unhandledrejection', tell);
    return () => window.removeEventListener('unhandledrejection', tell);
  }, []);
  if (problem === null) return null;
  return (
    <View role="alert" className="flex-row items-center gap-2 border-b border-rule-faint bg-sheet py-1 pl-4 pr-1">
      <View className="flex-1">
        <Flag kind="broken">{problem}</Flag>
      </View>
      <Action kind="quiet" icon={X} label="Close" spoken="Close this notice" onPress={() => setProblem(null)} />
    </View>
  );
}
