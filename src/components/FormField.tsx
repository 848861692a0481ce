import { t } from '@lingui/core/macro';
import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { TextInput, View } from 'react-native';
import { FIELD } from './field';
import { Flag } from './Flag';
import type { FieldRules } from './fieldRules';
import { Words } from './Words';

interface FormFieldProps<T extends FieldValues> {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
  readonly label: string;
  readonly says?: string;
  readonly rules?: FieldRules;
  readonly secret?: boolean;
  readonly lines?: number;
  /** For codes and numbers, which are written so. */
  readonly capitals?: boolean;
}

/** One field of a form, with its name above and what is wrong with it below. */
export function FormField<T extends FieldValues>({
  control,
  name,
  label,
  says,
  rules,
  secret = false,
  lines = 1,
  capitals = false,
}: FormFieldProps<T>) {
  return (
    <Controller
      control={control}
      name={name}
      {...(rules === undefined ? {} : { rules })}
      render={({ field: { value, onChange, onBlur }, fieldState: { error } }) => (
        <View className="gap-1">
          <Words as="strong" nativeID={`field-${name}`}>
            {label}
          </Words>
          {says === undefined ? null : <Words as="soft">{says}</Words>}
          <TextInput
            aria-labelledby={`field-${name}`}
            aria-invalid={error !== undefined}
            value={value}
            onChangeText={onChange}
            onBlur={onBlur}
            secureTextEntry={secret}
            multiline={lines > 1}
            autoCapitalize={capitals ? 'characters' : 'none'}
            className={lines > 1 ? `${FIELD} min-h-[72px] py-2` : FIELD}
          />
          {error === undefined ? null : (
            <Flag kind="broken" live>
              {error.message ?? t`Look at this once more`}
            </Flag>
          )}
        </View>
      )}
    />
  );
}
