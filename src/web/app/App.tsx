import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { askAhead } from "../features/desk/askDesk";
import { SignInPage } from "../features/session/SignInPage";
import { useSession } from "../features/session/useSession";
import { Shell } from "./Shell";

const TemplatesRoom = lazy(() => import("../features/templates/TemplatesRoom"));
const EmailsRoom = lazy(() => import("../features/emails/EmailsRoom"));
const HouseStyleRoom = lazy(() => import("../features/house-style/HouseStyleRoom"));
const PicturesRoom = lazy(() => import("../features/pictures/PicturesRoom"));
const loadDesk = () => import("../features/desk/DeskRoom");
const DeskRoom = lazy(loadDesk);

// Whoever opens an email's own address needs the desk: it and what lies on it are fetched while the session is asked for.
if (location.pathname.startsWith("/emails/")) {
  void loadDesk();
  askAhead(location.pathname.split("/")[2] ?? "");
}

export function App() {
  const session = useSession();
  if (session.isPending) {
    return null;
  }
  if (!session.data) {
    return <SignInPage />;
  }
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/emails/:id" element={<DeskRoom />} />
        <Route element={<Shell session={session.data} />}>
          <Route path="/templates" element={<TemplatesRoom />} />
          <Route path="/emails" element={<EmailsRoom />} />
          <Route path="/house-style/:id?" element={<HouseStyleRoom />} />
          <Route path="/pictures" element={<PicturesRoom />} />
          <Route path="*" element={<Navigate to="/templates" replace />} />
        </Route>
      </Routes>
    </Suspense>
  );
}
