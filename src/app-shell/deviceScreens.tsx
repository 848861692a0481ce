import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import type { FotoplanError } from '../../core/errors';
import { Button } from '../ui/Button';
import { PrimaryBar } from '../ui/PrimaryBar';
import type { RunningEngine } from '../engine/createEngine';
import { startAfresh } from '../engine/startAfresh';
import { EmptyState } from '../ui/EmptyState';
import { errorText } from '../i18n/errorText';

/* What is shown in place of all screens, because of the device as a whole. */

interface StartingScreenProps {
  readonly problem: FotoplanError | null;
  readonly blocked: boolean;
  readonly onTryAgain: () => void;
}

/** While the device's store is opened, and why it could not be. */
export function StartingScreen({ problem, blocked, onTryAgain }: StartingScreenProps) {
  if (problem !== null) {
    return (
      <View role="main" className="flex-1">
        <EmptyState
          title={t`Your hand-ins could not be loaded`}
          text={errorText(problem, t`Something on this device broke. Reload to try again.`)}
        >
          <Button label={t`Try again`} onPress={onTryAgain} />
        </EmptyState>
      </View>
    );
  }
  return (
    <View role="main" className="flex-1">
      {blocked ? (
        <EmptyState
          title={t`Close the other tab`}
          text={t`Another tab has an older version of Fotoplan open. Close or reload that tab; this one then goes on by itself.`}
        />
      ) : (
        <EmptyState title={t`Loading your hand-ins …`} text={t`Everything kept on this device is being opened.`} />
      )}
    </View>
  );
}

/** What this tab kept open is closed, for a newer version in another tab or by the browser. */
export function ClosedScreen({ why }: { readonly why: 'newer' | 'lost' }) {
  return (
    <View className="flex-1 bg-paper">
      <View role="main" className="flex-1">
        <EmptyState
          title={t`Reload this tab`}
          text={
            why === 'newer'
              ? t`A newer version of Fotoplan is open in another tab. Everything you made is saved.`
              : t`The browser closed what Fotoplan keeps on this device. Reload to open it again.`
          }
        />
      </View>
      <PrimaryBar label={t`Reload`} onPress={() => window.location.reload()} />
    </View>
  );
}

/** This device was unlinked from another one. */
export function UnlinkedScreen({ engine }: { readonly engine: RunningEngine }) {
  return (
    <View className="flex-1 bg-paper">
      <View role="main" className="flex-1">
        <EmptyState
          title={t`This device was unlinked`}
          text={t`The link was ended on another device, or everything was deleted there. What was saved is still on the devices that are linked. Starting afresh takes it off this one; you can link again with a new code.`}
        />
      </View>
      <PrimaryBar label={t`Start afresh`} onPress={() => void startAfresh(engine)} />
    </View>
  );
}
