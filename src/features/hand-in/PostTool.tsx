import { t } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import type { MessageView } from '../../../contract/placeViews';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { readableBytes, readableDate } from '../../i18n/formats';
import { Button } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { Text } from '../../ui/Text';
import type { BoundFile } from '../../data/boundFiles';
import { useAccountStore } from '../../college/accountStore';
import { AccountTool } from './AccountTool';
import { mail, sentMails, usePlacesStore } from '../../college/placesStore';
import { SendProgress } from './SendProgress';
import { IDLE, useSendStore } from '../../college/sendStore';
import { mailAddressRules, mailTextRules, subjectRules } from '../../forms/fieldRules';

/** The post tray: the file itself as an attachment, to oneself or to another. */
export function PostTool({
  handIn,
  file,
  name,
}: {
  readonly handIn: HandIn;
  readonly file: BoundFile;
  readonly name: string;
}) {
  const account = useAccountStore((s) => s.accounts.post);
  return (
    <View className="gap-3">
      <AccountTool service="post" />
      {account === null ? null : (
        <Letter
          key={account.id}
          handIn={handIn}
          file={file}
          name={name}
          ownAddress={`${account.number.toLowerCase()}@skerrypoint.example`}
        />
      )}
    </View>
  );
}

function Letter({
  handIn,
  file,
  name,
  ownAddress,
}: {
  readonly handIn: HandIn;
  readonly file: BoundFile;
  readonly name: string;
  readonly ownAddress: string;
}) {
  const lastTo = usePlacesStore((s) => s.lastTo);
  const send = useSendStore((s) => s.sends[`${handIn.id} post`]) ?? IDLE;
  const { control, handleSubmit, setValue } = useForm<{ to: string; subject: string; text: string }>({
    defaultValues: { to: lastTo === '' ? ownAddress : lastTo, subject: handIn.title, text: '' },
  });
  const post = handleSubmit(({ to, subject, text }) =>
    mail(handIn.id, file, name, { to, subject, text: text ?? '' }).then(() => undefined),
  );
  return (
    <View className="gap-3">
      <TextField control={control} name="to" rules={mailAddressRules()} label={t`To`} />
      <View className="items-start">
        <Button
          variant="text"
          label={t`To myself`}
          onPress={() => setValue('to', ownAddress, { shouldValidate: true })}
        />
      </View>
      <TextField control={control} name="subject" rules={subjectRules()} label={t`Subject`} />
      <TextField control={control} name="text" rules={mailTextRules()} label={t`Message (optional)`} lines={3} />
      <Text
        variant="soft"
        className="break-words"
      >{t`Attached: ${name}, PDF, ${{ size: readableBytes(file.blob.size) }}. The file itself, not a link.`}</Text>
      <SendProgress send={send} service="post" />
      <View className="items-start">
        <Button label={t`Send the mail`} disabled={send.state === 'sending'} onPress={() => void post()} />
      </View>
      <Sent after={send.state} />
    </View>
  );
}

/** What went out before. */
function Sent({ after }: { readonly after: string }) {
  const [messages, setMessages] = useState<readonly MessageView[]>([]);
  useEffect(() => void sentMails().then(setMessages, () => undefined), [after]);
  if (messages.length === 0) return null;
  return (
    <View className="gap-1">
      <Text variant="strong">{t`Sent before`}</Text>
      <View role="list" aria-label={t`Sent before`} className="gap-1">
        {messages.slice(0, 5).map(({ id, to, name, bytes, atMs }) => (
          <View key={id} role="listitem">
            <Text
              variant="soft"
              className="break-words"
            >{t`${{ date: readableDate(atMs, { dateStyle: 'medium', timeStyle: 'short' }) }}, to ${to}: ${name}, ${{ size: readableBytes(bytes) }}`}</Text>
          </View>
        ))}
      </View>
    </View>
  );
}
