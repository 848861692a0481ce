import { plural, t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { useEngine } from '../engine/useEngine';
import { chooseFiles } from '../files/chooseFiles';
import { bringIn } from './bringIn';
import { errorText } from '../i18n/errorText';

/** Takes a zip of hand-ins in, beside what is here. */
export function BringInTool() {
  const engine = useEngine();
  const [working, setWorking] = useState(false);
  const [done, setDone] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (): Promise<void> => {
    const [zip] = await chooseFiles({ accept: '.zip,application/zip' });
    if (zip === undefined) return;
    setWorking(true);
    setProblem(null);
    setDone(null);
    try {
      setDone((await bringIn(engine, zip)).length);
    } catch (error) {
      setProblem(errorText(error, t`The zip could not be imported. Free some space on this device and try again.`));
    } finally {
      setWorking(false);
    }
  };
  return (
    <View className="items-start gap-2">
      <Action label={working ? t`Importing …` : t`Import a zip`} disabled={working} onPress={() => void take()} />
      {done === null ? null : (
        <Flag kind="fine" live>
          {plural(done, { one: '# hand-in is on the desk.', other: '# hand-ins are on the desk.' })}
        </Flag>
      )}
      {problem === null ? null : (
        <Flag kind="broken" live>
          {problem}
        </Flag>
      )}
    </View>
  );
}
