import { Kbd, Menu } from "@mantine/core";
import { Suspense, useEffect, useRef, useState } from "react";
import { NavLink, Outlet, useLocation } from "react-router";
import type { Session } from "../api/types";
import { useSignOut } from "../features/session/useSession";
import { keyNames } from "../shared/keys";
import { lazily } from "../shared/lazily";
import { Mark } from "../shared/Mark";
import { ErrorBoundary } from "./ErrorBoundary";
import classes from "./Shell.module.css";

const GlossaryDialog = lazily(() => import("../features/session/GlossaryDialog"));
const PasswordDialog = lazily(() => import("../features/session/PasswordDialog"));

const rooms = [
  { to: "/house-style", name: "House style" },
  { to: "/coverage", name: "Coverage" },
  { to: "/rows", name: "Rows" },
  { to: "/snippets", name: "Snippets" },
  { to: "/readers", name: "Readers" },
  { to: "/templates", name: "Templates" },
  { to: "/emails", name: "Emails" },
  { to: "/pictures", name: "Pictures" },
  { to: "/checks", name: "Checks" },
];

/** The line of rooms across the top, and the room below it. */
export function Shell({ session, onGo }: { session: Session; onGo: () => void }) {
  const signOut = useSignOut();
  const [changing, setChanging] = useState(false);
  const [glossary, setGlossary] = useState(false);
  const { pathname } = useLocation();
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
        <NavLink to="/templates" className={classes.brand}>
          <Mark />
          <span>Golden Rule</span>
        </NavLink>
        <nav aria-label="Rooms" className={classes.rooms}>
          {rooms.map((room) => (
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
              {session.name}, <span className="soft">{session.roles.join(", ")}</span>
            </button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => setGlossary(true)}>What our words mean</Menu.Item>
            <Menu.Item onClick={() => setChanging(true)}>Change your password</Menu.Item>
            <Menu.Item onClick={() => signOut("here")}>Sign out</Menu.Item>
            <Menu.Item onClick={() => signOut("everywhere")}>Sign out everywhere</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </header>
      <main className={classes.body} ref={body} tabIndex={-1}>
        <ErrorBoundary at={pathname}>
          <Suspense fallback={null}>
            <Outlet />
          </Suspense>
        </ErrorBoundary>
      </main>
      <Suspense fallback={null}>
        {changing && <PasswordDialog onClose={() => setChanging(false)} />}
        {glossary && <GlossaryDialog onClose={() => setGlossary(false)} />}
      </Suspense>
    </div>
  );
}
