import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { LinkBody } from '../../contract/profileBody';
import { FotoplanError } from '../../core/errors';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { FormField } from '../components/FormField';
import { Words } from '../components/Words';
import { useStore } from 'zustand';
import { useEngine } from '../engine/useEngine';

/** Joins the work of the screen that a code was made on. */
export function TakeCode({ code, onLinked }: { readonly code: string; readonly onLinked: () => void }) {
  const engine = useEngine();
  const waiting = useStore(engine.sending, (s) => s.waiting);
  const [problem, setProblem] = useState<string | null>(null);
  const { control, handleSubmit, formState } = useForm<LinkBody>({ resolver: classValidatorResolver(LinkBody), defaultValues: { code } });
  const join = handleSubmit(async (typed) => {
    setProblem(null);
    try {
      await engine.api.link(typed.code);
      await engine.startOver();
      onLinked();
    } catch (error) {
      setProblem(error instanceof FotoplanError ? error.message : 'The screens could not be linked. Try again.');
    }
  });
  // what this screen has made must be with the server before its owner changes
  const sending = waiting !== 0;
  return (
    <View className="gap-3">
      <Words as="head">Link this screen</Words>
      <Words as="soft">With the code that the other screen shows. What you made here comes along.</Words>
      <FormField control={control} name="code" label="Code" capitals />
      <View className="items-start"><Action label={formState.isSubmitting ? 'Linking …' : sending ? 'Saving first …' : 'Link this screen'} disabled={formState.isSubmitting || sending} onPress={() => void join()} /></View>
      {problem === null ? null : <Flag kind="broken" live>{problem}</Flag>}
    </View>
  );
}
