import { Button } from "@mantine/core";
import { Component, type ReactNode } from "react";
import classes from "./Shell.module.css";

interface Props {
  /** The address of the page. */
  at: string;
  children: ReactNode;
}

interface State {
  at: string;
  error?: Error;
}

/** Where a part of the screen fails, the rest stays, and the part says so. What was typed waits in the browser. */
export class ErrorBoundary extends Component<Props, State> {
  override state: State = { at: this.props.at };

  /** Elsewhere it is tried anew. */
  static getDerivedStateFromProps({ at }: Props, state: State): State | null {
    return at === state.at ? null : { at };
  }

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    const { error } = this.state;
    if (!error) {
      return this.props.children;
    }
    return (
      <div role="alert" className={classes.failed}>
        <h1>This page failed</h1>
        <p>
          {error.message}. What you typed is kept in this browser and sent when the page works again. Try again; if it fails again, tell
          whoever runs this server.
        </p>
        <Button onClick={() => this.setState({ error: undefined })}>Try again</Button>{" "}
        <Button variant="default" onClick={() => location.reload()}>
          Load the page anew
        </Button>
      </div>
    );
  }
}
