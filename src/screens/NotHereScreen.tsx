import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { NextBar } from '../components/NextBar';
import { Message } from './Message';

export function NotHereScreen() {
  const router = useRouter();
  return (
    <View role="main" className="flex-1 bg-paper">
      <Message title="Nothing lies here" text="This hand-in or page is not on this device, or it was taken off the desk." />
      <NextBar label="Go to the desk" onPress={() => router.replace('/')} />
    </View>
  );
}
