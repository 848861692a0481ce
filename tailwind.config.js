/** Spaces in px, in steps of 4: they do not grow with the text, which needs the room. */
const STEPS = [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 5, 6, 7, 8, 9, 10, 11, 12, 14, 16, 20, 24, 28, 32, 36, 40];
const spacing = { px: '1px', ...Object.fromEntries(STEPS.map((step) => [step, `${step * 4}px`])) };

const token = (name) => `rgb(var(--${name}) / <alpha-value>)`;

/** @type {import('tailwindcss').Config} */
module.exports = {
  content: ['./app/**/*.tsx', './src/**/*.tsx'],
  presets: [require('nativewind/preset')],
  // both themes come from the variables in global.css; with 'media' the preset's own listener throws while developing
  darkMode: 'class',
  theme: {
    colors: {
      transparent: 'transparent',
      paper: token('paper'),
      sheet: token('sheet'),
      ink: token('ink'),
      'ink-soft': token('ink-soft'),
      rule: token('rule'),
      'rule-faint': token('rule-faint'),
      beet: token('beet'),
      'beet-deep': token('beet-deep'),
      'beet-tint': token('beet-tint'),
      'on-beet': token('on-beet'),
      next: token('next'),
      'on-next': token('on-next'),
      moss: token('moss'),
      amber: token('amber'),
      brick: token('brick'),
      night: token('night'),
      chalk: token('chalk'),
      'beet-light': token('beet-light'),
    },
    fontFamily: {
      title: ['BricolageGrotesque_600SemiBold', 'NotoSansArabic_600SemiBold', 'system-ui', 'sans-serif'],
      read: ['AtkinsonHyperlegibleNext_400Regular', 'NotoSansArabic_400Regular', 'system-ui', 'sans-serif'],
      strong: ['AtkinsonHyperlegibleNext_600SemiBold', 'NotoSansArabic_600SemiBold', 'system-ui', 'sans-serif'],
    },
    spacing,
    // in rem: a browser set to larger text is heard
    fontSize: {
      label: ['0.8125rem', '1.125rem'],
      small: ['0.875rem', '1.25rem'],
      read: ['1rem', '1.5rem'],
      head: ['1.0625rem', '1.5rem'],
      title: ['1.375rem', '1.75rem'],
    },
    borderRadius: { none: '0', DEFAULT: '3px', full: '9999px' },
    extend: { boxShadow: { sheet: '0 2px 8px rgb(35 31 51 / 0.14)' } },
  },
};
