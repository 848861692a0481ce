import { t } from '@lingui/core/macro';
import FolderDown from 'lucide-react-native/icons/folder-down';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useEngine } from '../../engine/useEngine';
import { chooseFolder, saveInFolder } from '../../files/folder';
import { errorText } from '../../i18n/errorText';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';

/** Saves files into a folder of this device, chosen once and remembered until everything is deleted from it. */
export function SaveToFolder({ files }: { readonly files: readonly File[] }) {
  const { db } = useEngine();
  const [folder, setFolder] = useState<FileSystemDirectoryHandle | null>(null);
  const [saved, setSaved] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    void db.get('device', 'folder').then((kept) => setFolder((kept as FileSystemDirectoryHandle | undefined) ?? null));
  }, [db]);
  const save = async (remembered: FileSystemDirectoryHandle | null): Promise<void> => {
    setSaved(null);
    setProblem(null);
    try {
      const into = remembered ?? (await chooseFolder());
      if (into === null) return;
      const names = await saveInFolder(into, files);
      setFolder(into);
      setSaved(t`Saved in “${{ folder: into.name }}”: ${{ files: names.join(', ') }}`);
      await db.put('device', into, 'folder');
    } catch (error) {
      setProblem(errorText(error, t`It could not be saved there. Free some space, or choose another folder.`));
    }
  };
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2">
        <Button
          label={folder === null ? t`Save to a folder` : t`Save to “${{ folder: folder.name }}”`}
          icon={FolderDown}
          onPress={() => void save(folder)}
        />
        {folder === null ? null : (
          <Button
            variant="text"
            label={t`Another folder`}
            accessibilityLabel={t`Another folder: choose it and save there`}
            onPress={() => void save(null)}
          />
        )}
      </View>
      <StatusMessage status="success" announce>
        {saved}
      </StatusMessage>
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}
