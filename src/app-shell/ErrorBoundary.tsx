import { t } from '@lingui/core/macro';
import { router } from 'expo-router';
import { Component, type ReactNode } from 'react';
import { View } from 'react-native';
import { Button } from '../ui/Button';
import { PrimaryBar } from '../ui/PrimaryBar';
import { EmptyState } from '../ui/EmptyState';

interface BoundaryState {
  readonly broken: boolean;
}

/** A screen that throws while it is drawn shows a way back instead; what was made is kept by the engine, not by screens. */
export class ErrorBoundary extends Component<{ readonly children: ReactNode }, BoundaryState> {
  override state: BoundaryState = { broken: false };

  static getDerivedStateFromError(): BoundaryState {
    return { broken: true };
  }

  private readonly mend = (): void => this.setState({ broken: false });

  override render(): ReactNode {
    if (!this.state.broken) return this.props.children;
    const toDesk = (): void => {
      router.replace('/');
      this.mend();
    };
    return (
      <View className="flex-1 bg-paper">
        <View role="main" className="flex-1">
          <EmptyState
            title={t`This screen stopped working`}
            text={t`Nothing you made is lost. Go back to the desk, or try this screen again.`}
          >
            <Button label={t`Try again`} onPress={this.mend} />
          </EmptyState>
        </View>
        <PrimaryBar label={t`Go to the desk`} onPress={toDesk} />
      </View>
    );
  }
}
