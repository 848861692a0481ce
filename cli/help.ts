import {
  COMMANDS,
  NOTES,
  OTHER_COMMANDS,
  SHELLS,
  type CommandEntry,
  type CommandName,
  type OptionEntry,
  type Shell,
} from './commandTable';

const entries = Object.entries(COMMANDS) as [CommandName, CommandEntry][];
const WIDTH = 80;
const INDENT = 26;

const spelt = ({ name, short, value }: OptionEntry): string =>
  `${short === undefined ? '    ' : `-${short}, `}--${name}${value === undefined ? '' : ` ${value}`}`;
/** With the values it knows, where they are not said anyway. */
const saysAll = ({ says, choices = [] }: OptionEntry): string =>
  choices.every((choice) => says.includes(choice)) ? says : `${says}; one of ${choices.join(', ')}`;

/** Breaks text into lines of at most so many characters. */
function wrapped(text: string, width: number): string[] {
  const lines = [''];
  for (const word of text.split(' ')) {
    const line = lines.at(-1)!;
    if (line !== '' && line.length + 1 + word.length > width) lines.push(word);
    else lines[lines.length - 1] = line === '' ? word : `${line} ${word}`;
  }
  return lines;
}

function twoColumns(left: string, right: string): string {
  const [first, ...rest] = wrapped(right, WIDTH - INDENT);
  const begun = `  ${left}`;
  const head =
    begun.length + 2 > INDENT ? `${begun}\n${' '.repeat(INDENT)}${first}` : `${begun.padEnd(INDENT)}${first}`;
  return [head, ...rest.map((line) => ' '.repeat(INDENT) + line)].join('\n');
}

const notes = (): string => NOTES.map((note) => wrapped(note, WIDTH).join('\n')).join('\n\n');

/** What the program is for, and its commands. */
export const helpOnAll = (): string => `fotoplan: photos of paper pages in, one PDF out

Usage: fotoplan COMMAND FILE... [OPTIONS]

Commands:
${[...entries.map(([name, { says }]) => twoColumns(name, says)), ...Object.entries(OTHER_COMMANDS).map(([name, { takes, says }]) => twoColumns(`${name} ${takes}`.trim(), says))].join('\n')}

Call fotoplan COMMAND --help for a command’s options.

${notes()}
`;

export function helpOn(name: CommandName): string {
  const { takes, says, options }: CommandEntry = COMMANDS[name];
  return `${wrapped(says, WIDTH).join('\n')}

Usage: fotoplan ${name} ${takes} [OPTIONS]

Options:
${options.map((option) => twoColumns(spelt(option), saysAll(option))).join('\n')}

${notes()}
`;
}

const roff = (text: string): string =>
  text
    .replaceAll('\\', '\\e')
    .replaceAll('-', '\\-')
    .replace(/^([.'])/, '\\&$1');

/** The manual page, for section 1 (man(7)). */
export const manualPage = (version: string): string =>
  [
    `.TH FOTOPLAN 1 "" "fotoplan ${version}"`,
    '.SH NAME',
    'fotoplan \\- photos of paper pages in, one PDF out',
    '.SH SYNOPSIS',
    ...entries.flatMap(([name, { takes }]) => ['.br', `.B fotoplan ${name}`, roff(`${takes} [OPTIONS]`)]),
    '.SH DESCRIPTION',
    ...NOTES.flatMap((note) => ['.PP', roff(note)]),
    ...entries.flatMap(([name, { says, options }]) => [
      `.SH ${name.toUpperCase()}`,
      roff(says),
      ...options.flatMap((option) => ['.TP', `.B ${roff(spelt(option).trim())}`, roff(saysAll(option))]),
    ]),
    '',
  ].join('\n');

const optionNames = (options: readonly OptionEntry[]): string[] =>
  options.flatMap(({ name, short }) => [`--${name}`, ...(short === undefined ? [] : [`-${short}`])]);
const withChoices = entries.flatMap(([, { options }]) => options).filter(({ choices }) => choices !== undefined);
const chosenOnce = [...new Map(withChoices.map((option) => [option.name, option])).values()];
const allNames = [...entries.map(([name]) => name), ...Object.keys(OTHER_COMMANDS)];

const bash = (): string => `# fotoplan completions bash > /etc/bash_completion.d/fotoplan
_fotoplan() {
  local word="\${COMP_WORDS[COMP_CWORD]}" before="\${COMP_WORDS[COMP_CWORD-1]}"
  case "$before" in
${chosenOnce.map(({ name, choices }) => `    --${name}) COMPREPLY=($(compgen -W "${choices!.join(' ')}" -- "$word")); return ;;`).join('\n')}
    completions) COMPREPLY=($(compgen -W "${SHELLS.join(' ')}" -- "$word")); return ;;
  esac
  if [ "$COMP_CWORD" = 1 ]; then COMPREPLY=($(compgen -W "${allNames.join(' ')}" -- "$word")); return; fi
  case "$word" in -*) ;; *) return ;; esac
  case "\${COMP_WORDS[1]}" in
${entries.map(([name, { options }]) => `    ${name}) COMPREPLY=($(compgen -W "${optionNames(options).join(' ')}" -- "$word")) ;;`).join('\n')}
  esac
}
complete -o default -F _fotoplan fotoplan
`;

const zshQuoted = (text: string): string =>
  text.replaceAll("'", "'\\''").replaceAll('[', '(').replaceAll(']', ')').replaceAll(':', ',');
const zsh = (): string => `#compdef fotoplan
# fotoplan completions zsh > _fotoplan, in a folder of $fpath
_fotoplan() {
  if (( CURRENT == 2 )); then compadd ${allNames.join(' ')}; return; fi
  case "\${words[2]}" in
    completions) compadd ${SHELLS.join(' ')} ;;
${entries
  .map(
    ([name, { options }]) => `    ${name}) _arguments \\
${options.map((o) => `      '--${o.name}[${zshQuoted(o.says)}]${o.value === undefined ? '' : `:${o.value}:${o.choices === undefined ? '_files' : `(${o.choices.join(' ')})`}`}' \\`).join('\n')}
      '*:file:_files' ;;`,
  )
  .join('\n')}
  esac
}
_fotoplan "$@"
`;

const fishQuoted = (text: string): string => text.replaceAll('\\', '\\\\').replaceAll("'", "\\'");
const fish = (): string => `# fotoplan completions fish > ~/.config/fish/completions/fotoplan.fish
complete -c fotoplan -n __fish_use_subcommand -f -a '${allNames.join(' ')}'
complete -c fotoplan -n '__fish_seen_subcommand_from completions' -f -a '${SHELLS.join(' ')}'
${entries
  .flatMap(([name, { options }]) =>
    options.map(
      (o) =>
        `complete -c fotoplan -n '__fish_seen_subcommand_from ${name}' -l ${o.name}${o.short === undefined ? '' : ` -s ${o.short}`}${o.value === undefined ? '' : ' -r'}${o.choices === undefined ? '' : ` -a '${o.choices.join(' ')}'`} -d '${fishQuoted(o.says)}'`,
    ),
  )
  .join('\n')}
`;

/** A script for a shell, with the line that installs it. */
export const completionsFor = (shell: Shell): string => ({ bash, zsh, fish })[shell]();
