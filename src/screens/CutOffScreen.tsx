import { View } from 'react-native';
import { NextBar } from '../components/NextBar';
import { startAfresh } from '../stores/liveStore';
import { Message } from './Message';

/** What a screen shows once it was cut off from another one. */
export function CutOffScreen() {
  return (
    <View className="flex-1 bg-paper">
      <View role="main" className="flex-1">
        <Message title="This screen was cut off" text="Somebody ended the link from another screen. The work is safe there; here it is taken away. You can start afresh, and link this screen again with a new code." />
      </View>
      <NextBar label="Start afresh" onPress={() => void startAfresh()} />
    </View>
  );
}
