import { plural, t } from '@lingui/core/macro';
import { useState } from 'react';
import { FlatList, Image, View } from 'react-native';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { Text } from '../../ui/Text';
import { readableBytes } from '../../i18n/formats';
import { useFilePage } from './useFilePage';
import type { BoundFile } from '../../data/boundFiles';
import { useProfile } from '../../engine/useEngine';
import { fileNameOf } from '../../college/fileName';

/** The very file, page by page, as a PDF reader shows it. */
export function FilePreview({
  handIn,
  file,
  onClose,
}: {
  readonly handIn: HandIn;
  readonly file: BoundFile;
  readonly onClose: () => void;
}) {
  const profile = useProfile();
  return (
    <Dialog label={t`The file`} onClose={onClose} size="full">
      <View role="banner" className="min-h-[56px] flex-row items-center gap-2 border-b border-rule-faint px-3 py-1">
        <View className="flex-1">
          <Text variant="title" className="text-head" numberOfLines={1}>
            {fileNameOf(handIn, profile)}
          </Text>
          <Text
            variant="soft"
            className="tabular-nums"
          >{t`PDF, ${plural({ count: file.pageBytes.length }, { one: '# page', other: '# pages' })}, ${{ size: readableBytes(file.blob.size) }}`}</Text>
        </View>
        <Button label={t`Close`} onPress={onClose} />
      </View>
      <FilePages file={file} cover={handIn.binding.cover} />
    </Dialog>
  );
}

/** The pages of a file under each other, as wide as there is room; `cover`: a cover sheet stands before them. */
export function FilePages({ file, cover }: { readonly file: BoundFile; readonly cover: boolean }) {
  const count = file.pageBytes.length + (cover ? 1 : 0);
  const [width, setWidth] = useState(0);
  return (
    <View className="flex-1" onLayout={({ nativeEvent }) => setWidth(Math.min(820, nativeEvent.layout.width - 32))}>
      <FlatList
        data={Array.from({ length: count }, (_, page) => page)}
        keyExtractor={String}
        contentContainerClassName="items-center gap-4 p-4"
        initialNumToRender={2}
        windowSize={5}
        renderItem={({ item }) => <FilePage file={file} page={item} count={count} width={width} />}
      />
    </View>
  );
}

function FilePage({
  file,
  page,
  count,
  width,
}: {
  readonly file: BoundFile;
  readonly page: number;
  readonly count: number;
  readonly width: number;
}) {
  const shown = useFilePage(file, page);
  const label = t`Page ${{ page: page + 1 }} of ${count} in the file`;
  if (shown === 'failed')
    return (
      <Text tone="brick">{t`This page of the file cannot be shown here. Download it and look with another reader.`}</Text>
    );
  return (
    <View
      className="items-center justify-center bg-sheet shadow-sheet"
      style={{ width, height: shown === null ? width * Math.SQRT2 : (width * shown.height) / shown.width }}
    >
      {shown === null ? (
        <Text variant="soft" role="status">{t`Opening page ${{ page: page + 1 }} …`}</Text>
      ) : (
        <Image source={{ uri: shown.url }} accessibilityLabel={label} resizeMode="stretch" className="h-full w-full" />
      )}
    </View>
  );
}
