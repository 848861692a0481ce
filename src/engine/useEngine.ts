import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { ProfileView } from '../../contract/views';
import type { BoundFile } from '../data/boundFiles';
import type { DocumentsState } from '../data/documents';
import type { RunningEngine } from './createEngine';

/** The engine that the screens show; there is one as soon as any screen is drawn. */
export const EngineContext = createContext<RunningEngine | null>(null);

export function useEngine(): RunningEngine {
  const engine = useContext(EngineContext);
  if (engine === null) throw new Error('a screen was drawn outside of the app’s shell');
  return engine;
}

/** Part of what is known of hand-ins; a selector that makes an object each time needs useShallow. */
export const useDocuments = <T>(select: (state: DocumentsState) => T): T =>
  useStore(useEngine().documents.state, select);

/** Who hands in. */
export const useProfile = (): ProfileView => useStore(useEngine().profile.state);

/** The file bound last for a hand-in, once it was loaded. */
export const useBoundFile = (handInId: string): BoundFile | undefined =>
  useStore(useEngine().boundFiles.state, (s) => s.files[handInId]);
