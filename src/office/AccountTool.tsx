import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useState } from 'react';
import { Controller, useForm, type Control } from 'react-hook-form';
import { TextInput, View } from 'react-native';
import { SignInBody } from '../../contract/officeBodies';
import { FotoplanError } from '../../core/errors';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { FIELD } from '../bind/NameTool';
import { signInAtOffice, signOutAtOffice, useOfficeStore } from './officeStore';

/** Whose account at the course office it goes in under; signing in where nobody is. */
export function AccountTool() {
  const account = useOfficeStore((s) => s.account);
  return account === null ? (
    <SignIn />
  ) : (
    <View className="flex-row flex-wrap items-center justify-between gap-2">
      <Words className="shrink">{`Goes in as ${account.first} ${account.family}, ${account.number}`}</Words>
      <Action kind="quiet" label="Sign out" spoken="Sign out at the course office" onPress={() => void signOutAtOffice()} />
    </View>
  );
}

function SignIn() {
  const [problem, setProblem] = useState<string | null>(null);
  const { control, handleSubmit, formState } = useForm<SignInBody>({ resolver: classValidatorResolver(SignInBody), defaultValues: { number: '', pin: '' } });
  const enter = handleSubmit(async ({ number, pin }) => {
    setProblem(null);
    await signInAtOffice(number, pin).catch((error: unknown) => setProblem(error instanceof FotoplanError ? error.message : 'The course office did not answer. Try again.'));
  });
  return (
    <View className="gap-2 rounded border border-rule-faint bg-sheet p-3">
      <Words as="strong">Sign in at the course office</Words>
      <Words as="soft">With your own number and PIN there. In this demo: SP-20417 and 2041.</Words>
      <FormField control={control} name="number" label="Student number" wrong={formState.errors.number === undefined ? null : 'Write the number on your student card.'} />
      <FormField control={control} name="pin" label="PIN" secret wrong={formState.errors.pin === undefined ? null : 'Write your PIN.'} />
      {problem === null ? null : <Flag kind="broken" live>{problem}</Flag>}
      <View className="items-start"><Action label={formState.isSubmitting ? 'Signing in …' : 'Sign in'} disabled={formState.isSubmitting} onPress={() => void enter()} /></View>
    </View>
  );
}

function FormField({ control, name, label, wrong, secret = false }: { readonly control: Control<SignInBody>; readonly name: 'number' | 'pin'; readonly label: string; readonly wrong: string | null; readonly secret?: boolean }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange, onBlur } }) => (
        <View className="gap-1">
          <Words as="soft" nativeID={`office-${name}`}>{label}</Words>
          <TextInput aria-labelledby={`office-${name}`} value={value} onChangeText={onChange} onBlur={onBlur} secureTextEntry={secret} autoCapitalize="none" className={FIELD} />
          {wrong === null ? null : <Flag kind="broken">{wrong}</Flag>}
        </View>
      )}
    />
  );
}
