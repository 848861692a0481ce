import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import type { Page } from '../../../core/work/hand-in/handIn';
import { useEngine } from '../../engine/useEngine';
import { errorText } from '../../i18n/errorText';
import { copyPicture } from '../../files/copyPicture';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';

/** Puts a page into the clipboard as a picture at its full detail. */
export function CopyPicture({ page }: { readonly page: Page }) {
  const { scheduler, small } = useEngine();
  const [state, setState] = useState<'ready' | 'working' | 'copied'>('ready');
  const [problem, setProblem] = useState<string | null>(null);
  const copy = (): void => {
    setState('working');
    setProblem(null);
    const picture = small
      .whole(page)
      .then((original) =>
        scheduler.run(
          { kind: 'picture', original, recipe: page.recipe, format: 'png', longSidePx: Infinity },
          { priority: 'visible' },
        ),
      );
    copyPicture(picture).then(
      () => setState('copied'),
      async () => {
        setState('ready');
        // was it the picture, or the clipboard?
        setProblem(
          await picture.then(
            () => t`The browser did not let it be copied. Click into the page and try again.`,
            (error: unknown) => errorText(error, t`The pictures could not be made. Close other tabs and try again.`),
          ),
        );
      },
    );
  };
  return (
    <View className="gap-2 px-3">
      <Button
        label={state === 'working' ? t`Copying …` : t`Copy as a picture`}
        accessibilityLabel={state === 'working' ? t`Copying …` : t`Copy as a picture: this page, for other programs`}
        disabled={state === 'working'}
        onPress={copy}
      />
      {state === 'copied' ? (
        <StatusMessage status="success" announce>
          {t`Copied. Paste it where you want it.`}
        </StatusMessage>
      ) : null}
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}
