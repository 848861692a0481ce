import { t } from '@lingui/core/macro';
import Images from 'lucide-react-native/icons/images';
import { useRouter } from 'expo-router';
import { View } from 'react-native';
import type { HandIn, Page } from '../../../core/work/hand-in/handIn';
import { Button } from '../../ui/Button';

/** A reflection was found on the page's photo. */
export const hasReflection = ({ findings, pdfPage }: Page): boolean =>
  pdfPage === null && (findings?.includes('glare') ?? false);

/** The way to a second photo of a page: offered where a reflection was found, and there to be taken where none was. */
export function FillReflection({ handIn, page }: { readonly handIn: HandIn; readonly page: Page }) {
  const router = useRouter();
  const found = hasReflection(page);
  return (
    <View className="px-3">
      <Button
        label={found ? t`Fill the reflection` : t`Fill a reflection`}
        accessibilityLabel={
          found
            ? t`Fill the reflection from a second photo of this page`
            : t`Fill a reflection from a second photo of this page`
        }
        icon={Images}
        onPress={() => router.push(`/hand-in/${handIn.id}/shoot?fill=${page.id}`)}
      />
    </View>
  );
}
