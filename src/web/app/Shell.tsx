import { Kbd, Menu } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, NavLink, Outlet, useLocation } from "react-router";
import { queries } from "../api/queries";
import type { Session } from "../api/types";
import { useIsEverywhere, useSignOut } from "../features/session/useSession";
import { countOf } from "../shared/format";
import { keyNames } from "../shared/keys";
import { lazily } from "../shared/lazily";
import { Mark } from "../shared/Mark";
import { ErrorBoundary } from "./ErrorBoundary";
import classes from "./Shell.module.css";

const GlossaryDialog = lazily(() => import("../features/session/GlossaryDialog"));

const rooms = [
  { to: "/house-style", name: "House style" },
  { to: "/plan", name: "Plan" },
  { to: "/rows", name: "Rows" },
  { to: "/snippets", name: "Snippets" },
  { to: "/readers", name: "Readers" },
  { to: "/templates", name: "Templates" },
  { to: "/emails", name: "Emails" },
  { to: "/pictures", name: "Pictures" },
  { to: "/checks", name: "Checks" },
  { to: "/sending", name: "Sending" },
];

/** The line of rooms across the top, and the room below it. */
export function Shell({ session, onGo }: { session: Session; onGo: () => void }) {
  const signOut = useSignOut();
  const [glossary, setGlossary] = useState(false);
  const leads = useIsEverywhere("lead");
  const server = useQuery(queries.server);
  const { pathname } = useLocation();
  const waits = useQuery({ ...queries.home, refetchOnMount: true }).data?.waits.filter((w) => w.tell).length ?? 0;
  const body = useRef<HTMLElement>(null);
  const former = useRef(pathname);
  // Whoever goes to another room begins in it, not at the link they came by.
  useEffect(() => {
    if (former.current !== pathname) {
      former.current = pathname;
      body.current?.focus({ preventScroll: true });
    }
  }, [pathname]);
  return (
    <div className={classes.shell}>
      <header className={classes.line}>
        <NavLink
          to="/home"
          className={classes.brand}
          aria-label={`Golden Rule${waits > 0 ? `, ${countOf(waits, "thing waits", "things wait")} for you` : ""}, home`}
        >
          <Mark />
          <span>Golden Rule</span> {/* What is seen is said, in its order (WCAG 2.2, 2.5.3). */}
          {waits > 0 && <span className={classes.waits}>{waits}</span>}
        </NavLink>
        <nav aria-label="Rooms" className={classes.rooms}>
          {[...rooms, ...(leads ? [{ to: "/people", name: "People" }] : [])].map((room) => (
            <NavLink key={room.to} to={room.to} className={({ isActive }) => `${classes.room} ${isActive ? classes.here : ""}`}>
              {room.name}
            </NavLink>
          ))}
        </nav>
        <button type="button" className={`plain ${classes.go}`} onClick={onGo}>
          Go to <Kbd>{keyNames("Ctrl", "K")}</Kbd>
        </button>
        <Menu position="bottom-end">
          <Menu.Target>
            <button type="button" className={`plain ${classes.person}`}>
              {session.name}, <span className="soft">{roleWords(session)}</span>
            </button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => setGlossary(true)}>What our words mean</Menu.Item>
            <Menu.Item component={Link} to="/account">
              Your account
            </Menu.Item>
            {leads && server.data?.mailroom && (
              <Menu.Item component={Link} to="/mailroom">
                Mailroom (simulated)
              </Menu.Item>
            )}
            <Menu.Item onClick={() => signOut("here")}>Sign out</Menu.Item>
            <Menu.Item onClick={() => signOut("everywhere")}>Sign out everywhere</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </header>
      <main className={classes.body} ref={body} tabIndex={-1}>
        <ErrorBoundary at={pathname}>
          <Outlet />
        </ErrorBoundary>
      </main>
      {glossary && <GlossaryDialog onClose={() => setGlossary(false)} />}
    </div>
  );
}

/** What someone is: everywhere, or in their teams. */
const roleWords = ({ roles, inTeams }: Session) =>
  (roles.length > 0 ? roles : [...new Set(inTeams.map((held) => held.role))]).join(", ") || "no role yet";
