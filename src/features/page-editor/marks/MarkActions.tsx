import type { MessageDescriptor } from '@lingui/core';
import { msg, t } from '@lingui/core/macro';
import Eraser from 'lucide-react-native/icons/eraser';
import Highlighter from 'lucide-react-native/icons/highlighter';
import PenLine from 'lucide-react-native/icons/pen-line';
import Signature from 'lucide-react-native/icons/signature';
import TypeIcon from 'lucide-react-native/icons/type';
import { View } from 'react-native';
import { MARK_COLOURS, type MarkColour } from '../../../../core/work/marks/marks';
import type { Icon } from '../../../ui/buttonFace';
import { Button } from '../../../ui/Button';
import { DraftActions } from '../DraftActions';
import { Slider } from '../../../ui/Slider';
import { ChoiceGroup } from '../../../ui/ChoiceGroup';
import { Text } from '../../../ui/Text';
import type { Zoom } from '../../../zoom/useZoom';
import { ZoomActions } from '../../../zoom/ZoomActions';
import { SignaturePad } from './SignaturePad';
import { useSignatureStore } from './signatureStore';
import { MARK_TOOLS, type MarkDraft, type MarkTool } from './useMarkDraft';

const TOOLS: Readonly<
  Record<MarkTool, { readonly label: MessageDescriptor; readonly icon: Icon; readonly spoken: MessageDescriptor }>
> = {
  pen: { label: msg`Pen`, icon: PenLine, spoken: msg`Pen` },
  highlighter: { label: msg`Highlight`, icon: Highlighter, spoken: msg`Highlighter` },
  note: { label: msg`Note`, icon: TypeIcon, spoken: msg`Note in text` },
  signature: { label: msg`Sign`, icon: Signature, spoken: msg`Signature` },
  eraser: { label: msg`Eraser`, icon: Eraser, spoken: msg`Eraser` },
};
const COLOUR_NAMES: Readonly<Record<MarkColour, MessageDescriptor>> = {
  '#1d2733': msg`Black`,
  '#1f4f9e': msg`Blue`,
  '#a3243b': msg`Red`,
  '#2f6b3a': msg`Green`,
  '#e6b800': msg`Yellow`,
};

/** What is in hand on the marks tool, its colour and breadth, and its steps. */
export function MarkActions({
  draft,
  zoom,
  wide,
}: {
  readonly draft: MarkDraft;
  readonly zoom: Zoom;
  readonly wide: boolean;
}) {
  const signed = useSignatureStore((s) => s.strokes.length > 0);
  const take = (tool: MarkTool): void => {
    draft.choose(tool);
    if (tool === 'signature' && !signed) draft.sign([]);
  };
  return (
    <View className={wide ? 'gap-2 p-3' : 'bg-paper'}>
      <View role="toolbar" aria-label={t`In hand`} className="flex-row flex-wrap">
        {MARK_TOOLS.map((tool) => (
          <Button
            key={tool}
            variant="toolbar"
            icon={TOOLS[tool].icon}
            label={t(TOOLS[tool].label)}
            accessibilityLabel={t(TOOLS[tool].spoken)}
            pressed={draft.tool === tool}
            onPress={() => take(tool)}
          />
        ))}
      </View>
      {/* as high with every tool, so that the page above does not move when another one is taken */}
      <View className={wide ? 'gap-2' : 'min-h-[88px]'}>
        {draft.tool === 'eraser' ? null : (
          <ChoiceGroup
            label={t`Colour`}
            choices={MARK_COLOURS.map((colour) => ({ value: colour, label: t(COLOUR_NAMES[colour]), swatch: colour }))}
            value={draft.colour}
            onChange={draft.setColour}
            className="flex-row px-3"
          />
        )}
        {draft.tool === 'pen' || draft.tool === 'highlighter' ? (
          <View className="flex-row items-center gap-3 px-4">
            <Text variant="soft" aria-hidden>
              {t`Thickness`}
            </Text>
            <View className="flex-1">
              <Slider
                label={t`Thickness`}
                value={draft.breadth}
                min={0}
                max={1}
                step={0.05}
                valueText={`${Math.round(draft.breadth * 100)} %`}
                onChange={draft.setBreadth}
              />
            </View>
          </View>
        ) : null}
        {draft.tool === 'signature' && signed ? (
          <View className="items-start px-3">
            <Button label={t`Draw another signature`} onPress={() => draft.sign([])} />
          </View>
        ) : null}
      </View>
      <DraftActions draft={draft} of="marks" isEmpty={draft.marks.length === 0} />
      <ZoomActions zoom={zoom} insteadOf={t`writing`} />
      {draft.signature === null ? null : <SignaturePad strokes={draft.signature} onDraw={draft.sign} />}
    </View>
  );
}
