import { plural, t } from '@lingui/core/macro';
import Download from 'lucide-react-native/icons/download';
import Eye from 'lucide-react-native/icons/eye';
import Images from 'lucide-react-native/icons/images';
import Printer from 'lucide-react-native/icons/printer';
import Share2 from 'lucide-react-native/icons/share-2';
import { useState } from 'react';
import { View } from 'react-native';
import { boundPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { isTakenAsIs } from '../../../core/work/recipe/recipe';
import { Button } from '../../ui/Button';
import { ChoiceGroup } from '../../ui/ChoiceGroup';
import { Disclosure } from '../../ui/Disclosure';
import { StatusMessage } from '../../ui/StatusMessage';
import { SizeBar } from './SizeBar';
import { Text } from '../../ui/Text';
import { canShare, shareFile } from '../../files/shareFile';
import { canChooseFolder } from '../../files/folder';
import { downloadFile } from '../../files/downloadFile';
import { printFile } from '../../files/printFile';
import { readableBytes } from '../../i18n/formats';
import type { BoundFile } from '../../data/boundFiles';
import { useEngine, useProfile } from '../../engine/useEngine';
import { fileNameOf, partName } from '../../college/fileName';
import { picturesZip } from './picturesZip';
import { SaveToFolder } from './SaveToFolder';

interface BoundFileCardProps {
  readonly handIn: HandIn;
  readonly file: BoundFile;
  readonly fresh: boolean;
  readonly onPreview: () => void;
  readonly onDownload: () => void;
}

/** The file that was made: its name, what it weighs and why, and the ways it can leave. */
export function BoundFileCard({ handIn, file, fresh, onPreview, onDownload }: BoundFileCardProps) {
  const name = fileNameOf(handIn, useProfile());
  const pages = plural({ count: file.pageBytes.length }, { one: '# page', other: '# pages' });
  const { maxBytes } = handIn.binding;
  const parts = file.parts.length > 1 ? file.parts : [file.blob];
  const bytes = parts.reduce((sum, part) => sum + part.size, 0);
  const named = parts.map(
    (part, i) =>
      new File([part], parts.length > 1 ? partName(name, i + 1, parts.length) : name, { type: 'application/pdf' }),
  );
  return (
    <View className="gap-3 rounded border border-rule-faint bg-sheet p-4">
      <Text variant="head" className="break-words">
        {name}
      </Text>
      <Text className="tabular-nums">{t`PDF, ${pages}, ${{ size: readableBytes(bytes) }}${{ files: parts.length > 1 ? t` in ${{ count: parts.length }} files` : '' }}${{ limit: maxBytes === null ? '' : parts.length > 1 ? t`, each within ${{ size: readableBytes(maxBytes) }}` : t`, within ${{ size: readableBytes(maxBytes) }}` }}`}</Text>
      <SizeBar pageBytes={file.pageBytes} />
      {givenUp(file.codings).map((line) => (
        <Text key={line} variant="soft">
          {line}
        </Text>
      ))}
      {fresh ? <Text variant="soft">{claimOf(handIn)}</Text> : null}
      {fresh ? (
        <StatusMessage status="success" announce>
          {t`This file is up to date.`}
        </StatusMessage>
      ) : (
        <StatusMessage status="warning" announce>
          {t`Something changed since. Bind again to have it in the file.`}
        </StatusMessage>
      )}
      <View role="group" aria-label={t`What to do with the file`} className="flex-row flex-wrap gap-2">
        <Button label={t`See the file`} icon={Eye} onPress={onPreview} />
        {fresh && handIn.assignmentId === null ? null : (
          <Button label={fresh ? t`Download` : t`Download the older file`} icon={Download} onPress={onDownload} />
        )}
        {canShare(named) ? (
          <Button label={t`Share`} icon={Share2} onPress={() => void shareFile(named, handIn.title)} />
        ) : null}
        <Button label={t`Print`} icon={Printer} onPress={() => printFile(named[0]!)} />
      </View>
      {canChooseFolder() ? <SaveToFolder files={named} /> : null}
      <Pictures handIn={handIn} />
    </View>
  );
}

const pagesNamed = (numbers: readonly number[]): string =>
  t`${plural({ count: numbers.length }, { one: 'page', other: 'pages' })} ${{ numbers: numbers.join(', ') }}`;

/** Whether the file is one for archives and screen readers, and why where it is not. */
function claimOf(handIn: HandIn): string {
  const numbers = boundPages(handIn).flatMap((page, k) => (isTakenAsIs(page) ? [k + 1] : []));
  if (numbers.length === 0) return t`For archives and screen readers: PDF/A-2u and PDF/UA-1.`;
  return t`From another PDF, as it came: ${{ pages: pagesNamed(numbers) }}. So this file does not claim to be PDF/A or PDF/UA.`;
}

/** From here on much of a page's sharpness was given up, per cent. */
const MUCH = 50;

/** What a limit cost, in words. */
function givenUp(codings: readonly number[]): string[] {
  const whichOf = (are: (coding: number) => boolean): string | null => {
    const numbers = codings.flatMap((each, page) => (are(each) ? [page + 1] : []));
    if (numbers.length === 0) return null;
    return numbers.length === codings.length ? t`all pages` : pagesNamed(numbers);
  };
  const little = whichOf((coding) => coding > 0 && coding <= MUCH);
  const much = whichOf((coding) => coding > MUCH);
  return [
    ...(little === null ? [] : [t`To fit: ${{ who: little }} a little less sharp.`]),
    ...(much === null ? [] : [t`To fit: ${{ who: much }} less sharp, with simpler edges.`]),
  ];
}

/** Long sides that pictures of pages can have, px: for print, for a screen, for a message. */
const PICTURE_SIZES = [Infinity, 2000, 1200] as const;

/** Every page as a picture, all in one zip. */
function Pictures({ handIn }: { readonly handIn: HandIn }) {
  const engine = useEngine();
  const profile = useProfile();
  const [done, setDone] = useState<string | null>(null);
  const [longSidePx, setLongSidePx] = useState<number>(Infinity);
  const make = async (format: 'jpeg' | 'png'): Promise<void> => {
    try {
      const zip = await picturesZip(engine, handIn, format, longSidePx, (page, of) =>
        setDone(t`Page ${page} of ${of} …`),
      );
      downloadFile(zip, fileNameOf(handIn, profile).replace(/\.pdf$/i, '.zip'));
      setDone(null);
    } catch {
      setDone(t`The pictures could not be made. Close other tabs and try again.`);
    }
  };
  return (
    <Disclosure title={t`Pages as pictures`} summary={t`JPEG or PNG, in one zip`}>
      <View className="gap-2">
        <ChoiceGroup
          label={t`Size of the pictures`}
          choices={PICTURE_SIZES.map((px) => ({
            value: px,
            label: px === Infinity ? t`Full size` : t`${px} px`,
            accessibilityLabel: px === Infinity ? t`Full size: all that the photo has` : t`${px} px long`,
          }))}
          value={longSidePx}
          onChange={setLongSidePx}
        />
        <View
          role="group"
          aria-label={t`Every page as a picture, in one zip`}
          className="flex-row flex-wrap items-center gap-2"
        >
          <Button
            label={t`Pages as JPEG`}
            icon={Images}
            accessibilityLabel={t`Pages as JPEG, each in one zip`}
            onPress={() => void make('jpeg')}
          />
          <Button
            label={t`as PNG`}
            accessibilityLabel={t`as PNG, each page in one zip`}
            onPress={() => void make('png')}
          />
        </View>
        {done === null ? null : (
          <Text variant="soft" role="status">
            {done}
          </Text>
        )}
      </View>
    </Disclosure>
  );
}
