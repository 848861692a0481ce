import { t } from '@lingui/core/macro';
import Folder from 'lucide-react-native/icons/folder';
import FolderUp from 'lucide-react-native/icons/folder-up';
import { useCallback, useEffect, useState } from 'react';
import { TextInput, View } from 'react-native';
import type { LockerFolderView } from '../../../contract/placeViews';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { FotoplanError } from '../../../core/errors';
import { readableBytes } from '../../i18n/formats';
import { Button } from '../../ui/Button';
import { FIELD } from '../../ui/field';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import type { BoundFile } from '../../data/boundFiles';
import { useAccountStore } from '../../college/accountStore';
import { AccountTool } from './AccountTool';
import {
  folderKey,
  lockerFolder,
  makeFolder,
  rememberFolder,
  saveToLocker,
  usePlacesStore,
} from '../../college/placesStore';
import { SendProgress } from './SendProgress';
import { IDLE, useSendStore } from '../../college/sendStore';
import { errorText } from '../../i18n/errorText';

interface LockerToolProps {
  readonly handIn: HandIn;
  readonly courseCode: string | null;
  readonly file: BoundFile;
  readonly name: string;
}

/** The locker: a folder chosen, and the file put into it. */
export function LockerTool({ handIn, courseCode, file, name }: LockerToolProps) {
  const account = useAccountStore((s) => s.accounts.locker);
  const key = folderKey(handIn, courseCode);
  const path = usePlacesStore((s) => s.folders[key]) ?? '';
  const send = useSendStore((s) => s.sends[`${handIn.id} locker`]) ?? IDLE;
  const [folder, setFolder] = useState<LockerFolderView | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const look = useCallback(async (): Promise<void> => {
    try {
      setFolder(await lockerFolder(path));
      setProblem(null);
    } catch (error) {
      const known = error instanceof FotoplanError ? error : null;
      // a folder that is gone is left, and the top is shown
      if (known?.code === 'NOT_FOUND' && path !== '') rememberFolder(key, '');
      else setProblem(errorText(error, t`The locker could not be opened. Try again.`));
    }
  }, [path, key]);
  useEffect(() => {
    if (account !== null) void look();
  }, [account, look, send.state]);
  const save = (onExisting: 'ask' | 'replace' | 'both'): void =>
    void saveToLocker(handIn.id, file, name, path, onExisting);
  return (
    <View className="gap-3">
      <AccountTool service="locker" />
      {account === null ? null : (
        <>
          <Text variant="strong">{path === '' ? t`Top of the locker` : path.slice(1).replaceAll('/', ' / ')}</Text>
          <View role="list" aria-label={t`In this folder`} className="gap-1">
            {path === '' ? null : (
              <View role="listitem" className="items-start">
                <Button
                  variant="text"
                  icon={FolderUp}
                  label={t`One up`}
                  onPress={() => rememberFolder(key, path.slice(0, path.lastIndexOf('/')))}
                />
              </View>
            )}
            {folder?.folders.map((each) => (
              <View key={each} role="listitem" className="items-start">
                <Button
                  variant="text"
                  icon={Folder}
                  label={each}
                  accessibilityLabel={t`${each}: open this folder`}
                  onPress={() => rememberFolder(key, `${path}/${each}`)}
                />
              </View>
            ))}
            {folder?.files.map((each) => (
              <View key={each.id} role="listitem" className="px-2 py-1">
                <Text
                  variant="soft"
                  className="break-words"
                >{t`${{ name: each.name }}, PDF, ${{ size: readableBytes(each.bytes) }}`}</Text>
              </View>
            ))}
          </View>
          <NewFolder
            onMake={(folderName) =>
              makeFolder(`${path}/${folderName}`).then(() => rememberFolder(key, `${path}/${folderName}`))
            }
          />
          <StatusMessage status="error" announce>
            {problem}
          </StatusMessage>
          <SendProgress send={send} service="locker" />
          {send.state === 'failed' && send.code === 'NAME_TAKEN' ? (
            <View className="flex-row flex-wrap gap-2">
              <Button label={t`Replace it`} onPress={() => save('replace')} />
              <Button label={t`Keep both`} onPress={() => save('both')} />
            </View>
          ) : (
            <View className="items-start">
              <Button
                label={t`Put it into this folder`}
                disabled={send.state === 'sending'}
                onPress={() => save('ask')}
              />
            </View>
          )}
        </>
      )}
    </View>
  );
}

function NewFolder({ onMake }: { readonly onMake: (name: string) => Promise<unknown> }) {
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  if (name === null)
    return (
      <View className="items-start">
        <Button variant="text" label={t`New folder here`} onPress={() => setName('')} />
      </View>
    );
  const make = async (): Promise<void> => {
    try {
      if (name.trim() !== '') await onMake(name.trim());
      setName(null);
      setProblem(null);
    } catch (error) {
      setProblem(errorText(error, t`The folder could not be made. Try again.`));
    }
  };
  return (
    <View className="gap-1">
      <View className="flex-row gap-2">
        <TextInput
          aria-label={t`Name of the new folder`}
          value={name}
          onChangeText={setName}
          onSubmitEditing={() => void make()}
          maxLength={60}
          className={`${FIELD} min-w-0 flex-1`}
        />
        <Button label={t`Create`} accessibilityLabel={t`Create the folder`} onPress={() => void make()} />
      </View>
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}
