import { Component, type ReactNode } from "react";
import { look } from "../ui/look";

/** Shows a way on when the page itself fails; what was saved is with the server. */
export class ErrorBoundary extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <main className={look.page} role="alert">
        <h1>This page failed</h1>
        <p>What you entered before is saved. Reload to go on.</p>
        <button type="button" className={look.strong} onClick={() => location.reload()}>
          Reload
        </button>
      </main>
    );
  }
}
