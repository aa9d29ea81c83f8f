import { useHotkeys } from "@mantine/hooks";
import { useQueryClient } from "@tanstack/react-query";
import { type ComponentType, useEffect, useState } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { watchReleases } from "../api/live";
import type { Session } from "../api/types";
import { askAhead, type DeskKind } from "../features/desk/askDesk";
import { Notices } from "../features/home/Notices";
import { ForgottenPage } from "../features/session/ForgottenPage";
import { JoinPage } from "../features/session/JoinPage";
import { ResetPage } from "../features/session/ResetPage";
import { SignInAgain } from "../features/session/SignInAgain";
import { SignInPage } from "../features/session/SignInPage";
import { useSession } from "../features/session/useSession";
import { lazily } from "../shared/lazily";
import { Loading, Pending } from "../shared/Pending";
import { ErrorBoundary } from "./ErrorBoundary";
import { keepFocus } from "./keepFocus";
import { NotFound } from "./NotFound";
import { Shell } from "./Shell";

/** A room is fetched when somebody goes to it, or before. */
const room = <P extends object>(load: () => Promise<{ default: ComponentType<P> }>) => lazily<P>(load, <Loading />);
const HomeRoom = room(() => import("../features/home/HomeRoom"));
const TemplatesRoom = room(() => import("../features/templates/TemplatesRoom"));
const RowsRoom = room(() => import("../features/rows/RowsRoom"));
const PlanRoom = room(() => import("../features/plan/PlanRoom"));
const PeopleRoom = room(() => import("../features/people/PeopleRoom"));
const SendingRoom = room(() => import("../features/sending/SendingRoom"));
const AccountRoom = room(() => import("../features/session/AccountRoom"));
const MailroomRoom = room(() => import("../features/mailroom/MailroomRoom"));
const StartRoom = room(() => import("../features/emails/StartRoom"));
const EmailsRoom = room(() => import("../features/emails/EmailsRoom"));
const HouseStyleRoom = room(() => import("../features/house-style/HouseStyleRoom"));
const ChecksRoom = room(() => import("../features/checks/ChecksRoom"));
const ReportRoom = room(() => import("../features/checks/ReportRoom"));
const PicturesRoom = room(() => import("../features/pictures/PicturesRoom"));
const SnippetsRoom = room(() => import("../features/snippets/SnippetsRoom"));
const ReadersRoom = room(() => import("../features/readers/ReadersRoom"));
const HandOffRoom = room(() => import("../features/hand-offs/HandOffRoom"));
const ReviewRoom = room(() => import("../features/review/ReviewRoom"));
const DeskRoom = room<{ kind: DeskKind }>(() => import("../features/desk/DeskRoom"));
const GoDialog = lazily(() => import("../features/search/GoDialog"));

const rooms = [
  DeskRoom,
  TemplatesRoom,
  EmailsRoom,
  StartRoom,
  RowsRoom,
  SnippetsRoom,
  ReadersRoom,
  HouseStyleRoom,
  PicturesRoom,
  ChecksRoom,
  ReportRoom,
  ReviewRoom,
  HandOffRoom,
  PlanRoom,
  PeopleRoom,
  SendingRoom,
];

// Whoever opens a document's own address needs the desk: it and what lies on it are fetched while the session is asked for.
const [, opened, documentId, further] = location.pathname.split("/");
if (documentId && !further && (opened === "emails" || opened === "templates" || opened === "rows")) {
  void DeskRoom.fetch();
  askAhead(opened as DeskKind, documentId);
}

if (opened === "emails" && further === "review") {
  void ReviewRoom.fetch();
}

/**
 * The other rooms are fetched one by one whenever there is nothing else to do, so that going to one waits for nothing. Whoever saves
 * data (Save-Data, WICG) is sent only what they go to.
 */
function fetchAhead() {
  if (savesData()) {
    return;
  }
  let waiting = 0;
  const next = (left: typeof rooms) => {
    waiting = whenIdle(() => left[0]?.fetch().then(() => left.length > 1 && next(left.slice(1))));
  };
  const begin = setTimeout(() => next(rooms), 3000);
  return () => {
    clearTimeout(begin);
    cancelIdle(waiting);
  };
}

/** Roles, teams and campaign types may be others' by now: whoever shows them looks again. */
function useFreshPlan() {
  const cache = useQueryClient();
  useEffect(
    () =>
      watchReleases(() => {
        for (const key of ["session", "teams", "campaign-types"]) {
          void cache.invalidateQueries({ queryKey: [key] });
        }
      }),
    [cache],
  );
}

// Not every browser says so.
const savesData = () => (navigator as { connection?: { saveData?: boolean } }).connection?.saveData === true;
// Not every browser says when it is idle.
const whenIdle = window.requestIdleCallback ?? ((then: () => void) => setTimeout(then, 500));
const cancelIdle = window.cancelIdleCallback ?? clearTimeout;

export function App() {
  const session = useSession();
  useEffect(keepFocus, []);
  if (session.error && !session.data) {
    return (
      <main>
        <Pending query={session} what="Golden Rule" />
      </main>
    );
  }
  if (session.isPending) {
    return null;
  }
  // Whoever comes by a link of a mail is whom it is for, and not who is signed in here.
  return (
    <Routes>
      <Route path="/join" element={<JoinPage />} />
      <Route path="/reset" element={<ResetPage />} />
      {session.data ? (
        <Route path="*" element={<Rooms session={session.data} />} />
      ) : (
        <>
          <Route path="/forgotten" element={<ForgottenPage />} />
          <Route path="*" element={<SignInPage />} />
        </>
      )}
    </Routes>
  );
}

function Rooms({ session }: { session: Session }) {
  const [going, setGoing] = useState(false);
  const { pathname } = useLocation();
  useEffect(fetchAhead, []);
  useFreshPlan();
  // Under a dialog nothing is gone to.
  useHotkeys([["mod+K", () => document.querySelector("[aria-modal=true]") ?? setGoing(true)]], [], true);
  return (
    <>
      <ErrorBoundary at={pathname}>
        <Routes>
          <Route path="/emails/:id" element={<DeskRoom key="emails" kind="emails" />} />
          <Route path="/emails/:id/review" element={<ReviewRoom />} />
          <Route path="/emails/:id/hand-offs/:number?" element={<HandOffRoom />} />
          <Route path="/templates/:id" element={<DeskRoom key="templates" kind="templates" />} />
          <Route path="/rows/:id" element={<DeskRoom key="rows" kind="rows" />} />
          <Route element={<Shell session={session} onGo={() => setGoing(true)} />}>
            <Route path="/home" element={<HomeRoom />} />
            <Route path="/plan/:part?" element={<PlanRoom />} />
            <Route path="/coverage" element={<Navigate to="/plan/coverage" replace />} />
            <Route path="/people/:part?" element={<PeopleRoom />} />
            <Route path="/sending/:part?" element={<SendingRoom />} />
            <Route path="/account" element={<AccountRoom />} />
            <Route path="/mailroom/:id?" element={<MailroomRoom />} />
            <Route path="/rows" element={<RowsRoom />} />
            <Route path="/snippets/:id?" element={<SnippetsRoom />} />
            <Route path="/readers/:part?" element={<ReadersRoom />} />
            <Route path="/templates" element={<TemplatesRoom />} />
            <Route path="/emails" element={<EmailsRoom />} />
            <Route path="/start" element={<StartRoom />} />
            <Route path="/house-style/:id?" element={<HouseStyleRoom />} />
            <Route path="/pictures" element={<PicturesRoom />} />
            <Route path="/checks/:part?" element={<ChecksRoom />} />
            <Route path="/emails/:id/findings" element={<ReportRoom />} />
            <Route path="/" element={<Navigate to="/home" replace />} />
            <Route path="*" element={<NotFound />} />
          </Route>
        </Routes>
      </ErrorBoundary>
      {going && <GoDialog session={session} onClose={() => setGoing(false)} />}
      <Notices />
      <SignInAgain session={session} />
    </>
  );
}
