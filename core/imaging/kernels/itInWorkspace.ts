import { withWorkspace, type Workspace } from './workspace';

/**
 * For tests whose helpers make slots: an `it` whose body runs inside a workspace.
 * @returns that `it`, and the workspace of the test that runs
 */
export function itInWorkspace(): {
  readonly it: (name: string, run: () => void) => void;
  readonly ws: () => Workspace;
} {
  let open: Workspace | null = null;
  return {
    it: (name, run) =>
      test(name, () =>
        withWorkspace((workspace) => {
          open = workspace;
          run();
        }),
      ),
    ws: () => {
      if (open === null) throw new Error('No test is running.');
      return open;
    },
  };
}
