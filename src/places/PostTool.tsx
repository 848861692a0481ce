import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { MailBody } from '../../contract/placeBodies';
import type { MessageView } from '../../contract/placeViews';
import type { HandIn } from '../../core/handIn/handIn';
import { readableBytes } from '../../core/readableBytes';
import { Action } from '../components/Action';
import { FormField } from '../components/FormField';
import { Words } from '../components/Words';
import type { BoundFile } from '../data/boundFiles';
import { useAccountStore } from './accountStore';
import { AccountTool } from './AccountTool';
import { mail, sentMails, usePlacesStore } from './placesStore';
import { SendProgress } from './SendProgress';
import { IDLE, useSendStore } from './sendStore';

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
  const { control, handleSubmit, setValue } = useForm<MailBody>({
    resolver: classValidatorResolver(MailBody),
    defaultValues: { to: lastTo === '' ? ownAddress : lastTo, subject: handIn.title, text: '' },
  });
  const post = handleSubmit(({ to, subject, text }) =>
    mail(handIn.id, file, name, { to, subject, text: text ?? '' }).then(() => undefined),
  );
  return (
    <View className="gap-3">
      <FormField control={control} name="to" label="To" />
      <View className="items-start">
        <Action kind="quiet" label="To myself" onPress={() => setValue('to', ownAddress, { shouldValidate: true })} />
      </View>
      <FormField control={control} name="subject" label="Subject" />
      <FormField control={control} name="text" label="Message (optional)" lines={3} />
      <Words
        as="soft"
        className="break-words"
      >{`Attached: ${name}, PDF, ${readableBytes(file.blob.size)}. The file itself, not a link.`}</Words>
      <SendProgress send={send} service="post" />
      <View className="items-start">
        <Action label="Send the mail" disabled={send.state === 'sending'} onPress={() => void post()} />
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
      <Words as="strong">Sent before</Words>
      <View role="list" aria-label="Sent before" className="gap-1">
        {messages.slice(0, 5).map(({ id, to, name, bytes, atMs }) => (
          <View key={id} role="listitem">
            <Words
              as="soft"
              className="break-words"
            >{`${new Date(atMs).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}, to ${to}: ${name}, ${readableBytes(bytes)}`}</Words>
          </View>
        ))}
      </View>
    </View>
  );
}
