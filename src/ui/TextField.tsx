import { t } from '@lingui/core/macro';
import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { TextInput, View } from 'react-native';
import { FIELD } from './field';
import { StatusMessage } from './StatusMessage';
import { Text } from './Text';

/** What a field of a form must hold, each part with the sentence that names the fix; as react-hook-form takes it. */
export interface FieldRules {
  readonly required?: string;
  readonly maxLength?: { readonly value: number; readonly message: string };
  readonly pattern?: { readonly value: RegExp; readonly message: string };
}

interface TextFieldProps<T extends FieldValues> {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
  readonly label: string;
  readonly description?: string;
  readonly rules?: FieldRules;
  readonly secret?: boolean;
  readonly lines?: number;
  /** For codes and numbers, which are written so. */
  readonly capitals?: boolean;
}

/** One field of a form, with its name above and what is wrong with it below. */
export function TextField<T extends FieldValues>({
  control,
  name,
  label,
  description,
  rules,
  secret = false,
  lines = 1,
  capitals = false,
}: TextFieldProps<T>) {
  return (
    <Controller
      control={control}
      name={name}
      {...(rules === undefined ? {} : { rules })}
      render={({ field: { value, onChange, onBlur }, fieldState: { error } }) => (
        <View className="gap-1">
          <Text variant="strong" nativeID={`field-${name}`}>
            {label}
          </Text>
          {description === undefined ? null : <Text variant="soft">{description}</Text>}
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
            <StatusMessage status="error" announce>
              {error.message ?? t`Look at this once more`}
            </StatusMessage>
          )}
        </View>
      )}
    />
  );
}
