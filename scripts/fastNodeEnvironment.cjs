// Jest runs tests in a context whose global object is intercepted: every look-up of Math or Float32Array in a hot loop
// then costs a call. Declaring them as constants of the context makes pixels run at their usual speed.
const vm = require('node:vm');
const { TestEnvironment } = require('jest-environment-node');

const NAMES = [
  'Math',
  'Number',
  'Array',
  'Float32Array',
  'Float64Array',
  'Uint8Array',
  'Uint8ClampedArray',
  'Int32Array',
  'Uint32Array',
];

module.exports = class FastNodeEnvironment extends TestEnvironment {
  async setup() {
    await super.setup();
    vm.runInContext(NAMES.map((name) => `const ${name} = globalThis.${name};`).join('\n'), this.getVmContext());
  }
};
