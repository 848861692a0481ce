import RotateCw from 'lucide-react-native/icons/rotate-cw';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { Button } from '../ui/Button';
import { ChoiceGroup } from '../ui/ChoiceGroup';
import { CropMarks } from '../ui/CropMarks';
import { Dialog } from '../ui/Dialog';
import { Disclosure } from '../ui/Disclosure';
import { EmptyState } from '../ui/EmptyState';
import { PrimaryBar } from '../ui/PrimaryBar';
import { ProgressBar } from '../ui/ProgressBar';
import { Slider } from '../ui/Slider';
import { StatusMessage } from '../ui/StatusMessage';
import { Switch } from '../ui/Switch';
import { Text } from '../ui/Text';
import { TextField } from '../ui/TextField';

const CHOICES = ['One', 'Two', 'Three'].map((value) => ({ value, label: value, icon: RotateCw }));
const SWATCHES = ['#1d2733', '#1f4f9e', '#a3243b'].map((swatch) => ({ value: swatch, label: swatch, swatch }));
const nothing = (): void => undefined;

/** Every part of the kit in every state, for developers; looked at by a test. Its words are names of parts, and stay as they are. */
export function PartsScreen() {
  const [choice, setChoice] = useState('Two');
  const [open, setOpen] = useState(false);
  const form = useForm({ defaultValues: { plain: 'Written', wrong: 'Not so' } });
  const [checked, setChecked] = useState(true);
  const [value, setValue] = useState(0.4);
  return (
    <View className="flex-1 bg-paper">
      <ScrollView role="main" contentContainerClassName="mx-auto w-full max-w-[640px] gap-4 p-4">
        <Text variant="title">Text, title</Text>
        <Text variant="head">Text, head</Text>
        <Text>Text, read</Text>
        <Text variant="soft">Text, soft</Text>
        {(['outlined', 'text', 'toolbar', 'onDark'] as const).map((variant) => (
          <View key={variant} className={`flex-row flex-wrap gap-2 ${variant === 'onDark' ? 'bg-night p-2' : ''}`}>
            <Button variant={variant} label="Button" onPress={nothing} />
            <Button variant={variant} label="With icon" icon={RotateCw} shortcut="rotate" onPress={nothing} />
            <Button variant={variant} label="Pressed" pressed onPress={nothing} />
            <Button variant={variant} label="Disabled" disabled onPress={nothing} />
          </View>
        ))}
        {(['outlined', 'text', 'toolbar'] as const).map((variant) => (
          <ChoiceGroup
            key={variant}
            label={`ChoiceGroup, ${variant}`}
            variant={variant}
            choices={CHOICES}
            value={choice}
            onChange={setChoice}
          />
        ))}
        <ChoiceGroup label="ChoiceGroup, swatches" choices={SWATCHES} value="#1f4f9e" onChange={nothing} />
        <Switch label="Switch" description="What it means" checked={checked} onChange={setChecked} />
        <Slider label="Slider" min={0} max={1} step={0.1} value={value} onChange={setValue} />
        <TextField control={form.control} name="plain" label="TextField" description="What it is for" />
        <StatusMessage status="success">StatusMessage, success</StatusMessage>
        <StatusMessage status="warning">StatusMessage, warning</StatusMessage>
        <StatusMessage status="error">StatusMessage, error</StatusMessage>
        <ProgressBar label="ProgressBar" fraction={0.3} />
        <Disclosure title="Disclosure" summary="How it stands">
          <Text>What few need</Text>
        </Disclosure>
        <View className="m-2 h-16 w-24 bg-sheet shadow-sheet">
          <CropMarks />
        </View>
        <EmptyState title="EmptyState" text="What is lacking, and the way on.">
          <Button label="Open a Dialog" onPress={() => setOpen(true)} />
        </EmptyState>
      </ScrollView>
      <PrimaryBar label="PrimaryBar" onPress={nothing} />
      <PrimaryBar label="PrimaryBar, disabled" disabled onPress={nothing} />
      {open ? (
        <Dialog label="Dialog" onClose={() => setOpen(false)}>
          <Text variant="title">Dialog</Text>
          <Button label="Close" onPress={() => setOpen(false)} />
        </Dialog>
      ) : null}
    </View>
  );
}
