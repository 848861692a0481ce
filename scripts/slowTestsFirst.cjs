const { normalize } = require('node:path');
const { default: Sequencer } = require('@jest/test-sequencer');

/** Begun last, as files so short would be, one of these goes on alone for a minute while the other core has nothing to do. */
const SLOW = ['cli/cli.test.ts', 'bench/histories/history.test.ts'].map(normalize);

const place = ({ path }) => (SLOW.some((file) => path.endsWith(file)) ? 0 : 1);

module.exports = class extends Sequencer {
  sort(tests) {
    return [...super.sort(tests)].sort((a, b) => place(a) - place(b));
  }
};
