import { Component, type ReactNode } from "react";

import { Button } from "./Button";

type Props = { children: ReactNode; onBroken?: () => void };
type State = { failed: boolean };

/** A screen that broke says so, and leads back: nothing that was kept is lost by it. */
export class ErrorBoundary extends Component<Props, State> {
  override state: State = { failed: false };

  static getDerivedStateFromError(): State {
    return { failed: true };
  }

  override componentDidCatch() {
    this.props.onBroken?.();
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <div role="alert" className="m-auto max-w-lg rounded bg-sheet p-6 shadow-lg">
        <h2 className="mb-2 text-lg">This screen broke</h2>
        <p className="mb-4">Something went wrong while it was drawn. What you kept is kept.</p>
        <div className="flex gap-3">
          <Button kind="main" onClick={() => this.setState({ failed: false })}>
            Try again
          </Button>
          <a className="rounded border border-ink px-3 py-1.5" href="/">
            Back to the shelf
          </a>
        </div>
      </div>
    );
  }
}
