import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';

/** The tools under the page: on a small screen or with large text they scroll, so that the page keeps its half. */
export function ToolTray({ children }: { readonly children: ReactNode }) {
  return <ScrollView className="max-h-[50%] shrink-0 grow-0">{children}</ScrollView>;
}
