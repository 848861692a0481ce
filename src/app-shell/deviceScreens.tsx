import { View } from 'react-native';
import type { FotoplanError } from '../../core/errors';
import { Action } from '../components/Action';
import { NextBar } from '../components/NextBar';
import type { RunningEngine } from '../engine/createEngine';
import { startAfresh } from '../engine/startAfresh';
import { Message } from '../screens/Message';

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
        <Message title="Your hand-ins could not be loaded" text={problem.message}>
          <Action label="Try again" onPress={onTryAgain} />
        </Message>
      </View>
    );
  }
  return (
    <View role="main" className="flex-1">
      {blocked ? (
        <Message
          title="Close the other tab"
          text="Another tab has an older version of Fotoplan open. Close or reload that tab; this one then goes on by itself."
        />
      ) : (
        <Message title="Loading your hand-ins …" text="Everything kept on this device is being opened." />
      )}
    </View>
  );
}

/** What this tab kept open is closed, for a newer version in another tab or by the browser. */
export function ClosedScreen({ why }: { readonly why: 'newer' | 'lost' }) {
  return (
    <View className="flex-1 bg-paper">
      <View role="main" className="flex-1">
        <Message
          title="Reload this tab"
          text={
            why === 'newer'
              ? 'A newer version of Fotoplan is open in another tab. Everything you made is saved.'
              : 'The browser closed what Fotoplan keeps on this device. Reload to open it again.'
          }
        />
      </View>
      <NextBar label="Reload" onPress={() => window.location.reload()} />
    </View>
  );
}

/** This device was unlinked from another one. */
export function UnlinkedScreen({ engine }: { readonly engine: RunningEngine }) {
  return (
    <View className="flex-1 bg-paper">
      <View role="main" className="flex-1">
        <Message
          title="This device was unlinked"
          text="The link was ended on another device, or everything was deleted there. What was saved is still on the devices that are linked. Starting afresh takes it off this one; you can link again with a new code."
        />
      </View>
      <NextBar label="Start afresh" onPress={() => void startAfresh(engine)} />
    </View>
  );
}
