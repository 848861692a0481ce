import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { TextInput, View } from 'react-native';
import { DELETE_WORD } from '../../contract/deleteWord';
import { Action } from '../components/Action';
import { FIELD } from '../components/field';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { beginAgain } from '../engine/startAfresh';
import { useEngine } from '../engine/useEngine';
import { errorText } from '../i18n/errorText';

/** Deletes all of a person's work, here and on the server, after the word for it was typed. */
export function DeleteEverythingTool() {
  const engine = useEngine();
  const [open, setOpen] = useState(false);
  const [word, setWord] = useState('');
  const [working, setWorking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const isTyped = word.trim().toLowerCase() === DELETE_WORD;
  const remove = async (): Promise<void> => {
    setWorking(true);
    setProblem(null);
    try {
      await engine.deleteEverything();
      beginAgain();
    } catch (error) {
      setProblem(errorText(error, t`Not everything could be deleted. Try again.`));
      setWorking(false);
    }
  };
  return (
    <View className="gap-2">
      <Words as="head">{t`Delete everything`}</Words>
      <Words tone="soft">
        {t`All hand-ins, photos and files, on this device, on linked devices and on the server. What was handed in stays with the course office.`}
      </Words>
      {open ? (
        <View className="gap-2">
          <Words
            as="strong"
            nativeID="delete-word"
          >{t`Type “${DELETE_WORD}” to confirm. This cannot be undone.`}</Words>
          <TextInput
            aria-labelledby="delete-word"
            value={word}
            onChangeText={setWord}
            autoCapitalize="none"
            autoCorrect={false}
            className={FIELD}
          />
          <View className="flex-row flex-wrap gap-2">
            <Action
              label={working ? t`Deleting …` : t`Delete everything`}
              spoken={t`Delete everything for good`}
              disabled={!isTyped || working}
              onPress={() => void remove()}
            />
            <Action kind="quiet" label={t`Cancel`} onPress={() => setOpen(false)} />
          </View>
        </View>
      ) : (
        <View className="items-start">
          <Action label={t`Delete everything of mine`} onPress={() => setOpen(true)} />
        </View>
      )}
      {problem === null ? null : (
        <Flag kind="broken" live>
          {problem}
        </Flag>
      )}
    </View>
  );
}
