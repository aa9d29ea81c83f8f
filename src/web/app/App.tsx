import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { SignInPage } from "../features/session/SignInPage";
import { useSession } from "../features/session/useSession";
import { Shell } from "./Shell";

const TemplatesRoom = lazy(() => import("../features/templates/TemplatesRoom"));
const EmailsRoom = lazy(() => import("../features/emails/EmailsRoom"));
const HouseStyleRoom = lazy(() => import("../features/house-style/HouseStyleRoom"));
const DeskRoom = lazy(() => import("../features/desk/DeskRoom"));

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
          <Route path="*" element={<Navigate to="/templates" replace />} />
        </Route>
      </Routes>
    </Suspense>
  );
}
