import { act, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Button } from './Button';
import { ChoiceGroup } from './ChoiceGroup';
import { Dialog } from './Dialog';
import { Disclosure } from './Disclosure';
import { EmptyState } from './EmptyState';
import { PrimaryBar } from './PrimaryBar';
import { ProgressBar } from './ProgressBar';
import { Slider } from './Slider';
import { StatusMessage } from './StatusMessage';
import { Switch } from './Switch';
import { Text } from './Text';
import { TextField } from './TextField';

const user = userEvent.setup();

describe('Button', () => {
  it('acts by mouse and by keys, and not while disabled', async () => {
    const press = jest.fn();
    const { rerender } = render(<Button label="Bind" onPress={press} />);
    const button = screen.getByRole('button', { name: 'Bind' });
    await user.click(button);
    button.focus();
    await user.keyboard('{Enter}');
    expect(press).toHaveBeenCalledTimes(2);
    rerender(<Button label="Bind" onPress={press} disabled />);
    fireEvent.click(button);
    expect(press).toHaveBeenCalledTimes(2);
    expect(button.getAttribute('aria-disabled')).toBe('true');
  });

  it('is a toggle both when on and when off, and no toggle without a state', () => {
    const { rerender } = render(<Button label="Torch" onPress={() => undefined} pressed={false} />);
    const state = (): string | null => screen.getByRole('button').getAttribute('aria-pressed');
    expect(state()).toBe('false');
    rerender(<Button label="Torch" onPress={() => undefined} pressed />);
    expect(state()).toBe('true');
    rerender(<Button label="Torch" onPress={() => undefined} />);
    expect(state()).toBeNull();
  });

  it('shows its key while the mouse rests on it, until Escape', async () => {
    render(<Button label="Edges" shortcut="edges" onPress={() => undefined} />);
    const button = screen.getByRole('button', { name: 'Edges' });
    expect(button.getAttribute('aria-keyshortcuts')).toBe('e');
    await user.hover(button);
    expect((await screen.findByTestId('tooltip')).textContent).toBe('Edges: E');
    await user.keyboard('{Escape}');
    expect(screen.queryByTestId('tooltip')).toBeNull();
  });
});

function Papers({ onChange }: { readonly onChange?: (paper: string) => void }) {
  const [paper, setPaper] = useState('A4');
  return (
    <ChoiceGroup
      label="Paper"
      choices={['A4', 'A5', 'Letter'].map((value) => ({ value, label: value }))}
      value={paper}
      onChange={(next) => {
        setPaper(next);
        onChange?.(next);
      }}
    />
  );
}

describe('ChoiceGroup', () => {
  const checked = (): string[] =>
    screen
      .getAllByRole('radio')
      .filter((radio) => radio.getAttribute('aria-checked') === 'true')
      .map((radio) => radio.textContent ?? '');

  it('is one stop of the Tab key, on which the arrows choose, around the ends too', async () => {
    render(<Papers />);
    expect(screen.getByRole('radiogroup', { name: 'Paper' })).toBeTruthy();
    await user.tab();
    expect(document.activeElement?.textContent).toBe('A4');
    await user.keyboard('{ArrowRight}');
    expect([checked(), document.activeElement?.textContent]).toEqual([['A5'], 'A5']);
    await user.keyboard('{ArrowDown}{ArrowRight}');
    expect(checked()).toEqual(['A4']);
    await user.keyboard('{ArrowLeft}');
    expect(checked()).toEqual(['Letter']);
    await user.tab();
    expect(document.activeElement).toBe(document.body);
  });

  it('goes the other way where one reads from the right', async () => {
    render(
      <div dir="rtl">
        <Papers />
      </div>,
    );
    await user.tab();
    await user.keyboard('{ArrowLeft}');
    expect(checked()).toEqual(['A5']);
  });

  it('says nothing when what is chosen is pressed again', async () => {
    const change = jest.fn();
    render(<Papers onChange={change} />);
    await user.click(screen.getByRole('radio', { name: 'A4' }));
    expect(change).not.toHaveBeenCalled();
    await user.click(screen.getByRole('radio', { name: 'Letter' }));
    expect(change).toHaveBeenCalledWith('Letter');
  });
});

it('a switch tells its state and takes the other one', async () => {
  const change = jest.fn();
  render(<Switch label="Cover sheet" description="With name and title" checked={false} onChange={change} />);
  const part = screen.getByRole('switch', { name: 'Cover sheet' });
  expect(part.getAttribute('aria-checked')).toBe('false');
  await user.click(part);
  expect(change).toHaveBeenCalledWith(true);
});

it('a slider gives every value on the way, and the one it is left at', () => {
  const change = jest.fn();
  const commit = jest.fn();
  render(
    <Slider
      label="Contrast"
      min={-1}
      max={1}
      step={0.5}
      value={0}
      valueText="0 %"
      onChange={change}
      onCommit={commit}
    />,
  );
  const slider = screen.getByRole('slider', { name: 'Contrast' });
  expect(slider.getAttribute('aria-valuetext')).toBe('0 %');
  fireEvent.change(slider, { target: { value: '0.5' } });
  expect(change).toHaveBeenCalledWith(0.5);
  expect(commit).not.toHaveBeenCalled();
  fireEvent.keyUp(slider);
  expect(commit).toHaveBeenCalledTimes(1);
});

function NumberForm() {
  const { control, handleSubmit } = useForm({ defaultValues: { number: '' } });
  return (
    <>
      <TextField
        control={control}
        name="number"
        label="Student number"
        description="As on the card"
        rules={{ required: 'Write your number' }}
      />
      <Button label="Save" onPress={() => void handleSubmit(() => undefined)()} />
    </>
  );
}

it('a field is named by its label, and says what is wrong until it is right', async () => {
  render(<NumberForm />);
  const field = screen.getByRole('textbox', { name: 'Student number' });
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect((await screen.findByRole('status')).textContent).toBe('Write your number');
  expect(field.getAttribute('aria-invalid')).toBe('true');
  await user.type(field, 'SP-20417');
  expect(screen.queryByRole('status')).toBeNull();
  expect(field.getAttribute('aria-invalid')).not.toBe('true');
});

function WithDialog() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button label="Open" onPress={() => setOpen(true)} />
      {open ? (
        <Dialog label="Keys" onClose={() => setOpen(false)}>
          <Button label="First" onPress={() => undefined} />
          <Button label="Last" onPress={() => undefined} />
        </Dialog>
      ) : null}
    </>
  );
}

it('a dialog keeps the focus inside, and Escape closes it', async () => {
  render(<WithDialog />);
  await user.click(screen.getByRole('button', { name: 'Open' }));
  const dialog = await screen.findByRole('dialog', { name: 'Keys' });
  for (let i = 0; i < 6; i++) {
    await user.tab();
    expect(dialog.contains(document.activeElement) || document.activeElement?.contains(dialog)).toBe(true);
  }
  await act(async () => user.keyboard('{Escape}'));
  expect(screen.queryByRole('dialog')).toBeNull();
});

it('a disclosure says how it stands, and opens', async () => {
  render(
    <Disclosure title="Limit" summary="20 MB">
      <Text>Inside</Text>
    </Disclosure>,
  );
  const head = screen.getByRole('button', { name: /Limit/ });
  expect([head.getAttribute('aria-expanded'), screen.queryByText('Inside')]).toEqual(['false', null]);
  await user.click(head);
  expect(head.getAttribute('aria-expanded')).toBe('true');
  expect(screen.getByText('Inside')).toBeTruthy();
});

it('a status is announced only where it is asked for', () => {
  const { rerender } = render(<StatusMessage status="error">Not saved</StatusMessage>);
  expect(screen.queryByRole('status')).toBeNull();
  rerender(
    <StatusMessage status="error" announce>
      Not saved
    </StatusMessage>,
  );
  expect(screen.getByRole('status').textContent).toBe('Not saved');
});

it('progress is told in whole percents', () => {
  render(<ProgressBar label="Binding" fraction={0.426} />);
  expect(screen.getByRole('progressbar', { name: 'Binding' }).getAttribute('aria-valuenow')).toBe('43');
});

it('an empty state has a heading and the way on', () => {
  render(
    <EmptyState title="No pages yet" text="Shoot the first one.">
      <Button label="Shoot" onPress={() => undefined} />
    </EmptyState>,
  );
  expect(screen.getByRole('heading', { name: 'No pages yet', level: 1 })).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Shoot' })).toBeTruthy();
});

it('the primary bar does nothing while it waits', () => {
  const press = jest.fn();
  render(<PrimaryBar label="Binding, 40 %" disabled onPress={press} />);
  fireEvent.click(screen.getByRole('button', { name: 'Binding, 40 %' }));
  expect(press).not.toHaveBeenCalled();
});

it.each(['title', 'head'] as const)('%s is a heading', (variant) => {
  render(<Text variant={variant}>Tides</Text>);
  expect(screen.getByRole('heading', { level: variant === 'title' ? 1 : 2 }).textContent).toBe('Tides');
});
