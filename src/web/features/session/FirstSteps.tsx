import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import { Steps } from "../../shared/Steps";
import { useSession } from "./useSession";

const steps = {
  "add-campaign-types": { name: "Say which campaign types there are, and which teams send them", to: "/plan/campaign-types" },
  "release-house-style": { name: "Match the house style to your website, and release it", to: "/house-style" },
  "make-row": { name: "Make a saved row: a masthead, a hero, a footer", to: "/rows?new=yes" },
  "build-template": { name: "Build a template, with zones that authors fill", to: "/templates" },
  "plan-coverage": { name: "Say which rows each campaign type needs", to: "/plan/coverage" },
  "set-checks": { name: "Set the severity of checks, and your readers' mail clients", to: "/checks" },
  "start-email": { name: "Start an email from a template", to: "/start" },
  "fill-email": { name: "Fill it: what is gold is yours to write", to: "/emails?mine=yes" },
  "send-next-issue": { name: "Begin the next issue from one you made", to: "/start?from=email&mine=yes" },
  "read-findings": { name: "Open an email and read what the checks found", to: "/emails" },
} as const;

/** What someone new does first here, by their role; gone when all is done or it is dismissed. */
export function FirstSteps() {
  const person = useSession().data;
  const done = useQuery(queries.firstSteps);
  if (!person || !done.data || done.data.every((step) => step.done)) {
    return null;
  }
  return <Steps title="First steps" name={`first-steps/${person.id}`} all={done.data.map(({ key, done }) => ({ ...steps[key], done }))} />;
}
