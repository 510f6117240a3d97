import { createBrowserRouter, Navigate, useRouteError } from "react-router";
import { CalendarPage } from "./calendar/CalendarPage";
import { CampaignPage } from "./campaigns/CampaignPage";
import { CampaignsPage } from "./campaigns/CampaignsPage";
import { NewDropPage } from "./campaigns/NewDropPage";
import { PlanPage } from "./campaigns/PlanPage";
import { DesignsPage } from "./designs/DesignsPage";
import { DesignPage } from "./designs/DesignPage";
import { DocumentPage } from "./documents/DocumentPage";
import { DevicesPage } from "./devices/DevicesPage";
import { InboxPage } from "./devices/InboxPage";
import { BenchPlace } from "./drop/BenchPlace";
import { DropPage } from "./drop/DropPage";
import { LedgerPlace } from "./drop/LedgerPlace";
import { IssuesPlace } from "./drop/IssuesPlace";
import { OneOffPage } from "./drop/OneOffPage";
import { ProofPlace } from "./drop/ProofPlace";
import { ProofSetPlace } from "./drop/ProofSetPlace";
import { ProducePlace } from "./drop/ProducePlace";
import { RunPage } from "./drop/RunPage";
import { WhatPlace } from "./drop/WhatPlace";
import { WhoPlace } from "./drop/WhoPlace";
import { DetailImportPage } from "./lists/DetailImportPage";
import { ImportPage } from "./lists/ImportPage";
import { ListPage } from "./lists/ListPage";
import { ListsPage } from "./lists/ListsPage";
import { RecipientPage } from "./lists/RecipientPage";
import { ReloadPage } from "./lists/ReloadPage";
import { SuppressionPage } from "./lists/SuppressionPage";
import { VersionsPage } from "./lists/VersionsPage";
import { ReportPage } from "./report/ReportPage";
import { ResponsesPage } from "./responses/ResponsesPage";
import { ReturnsPage } from "./returns/ReturnsPage";
import { CalendarSettingsPage } from "./settings/CalendarPage";
import { ContactPage } from "./settings/ContactPage";
import { TypefacesPage } from "./settings/TypefacesPage";
import { PricesPage } from "./settings/PricesPage";
import { SalutationsPage } from "./settings/SalutationsPage";
import { SettingsPage } from "./settings/SettingsPage";
import { Shell } from "./shell/Shell";
import { TodayPage } from "./today/TodayPage";

function WentWrong() {
  const error = useRouteError();
  return (
    <div className="p-8">
      <h1 className="mb-2">Something went wrong</h1>
      <p className="mb-4 text-faint">{error instanceof Error ? error.message : "This page does not exist."} Your saved work is safe.</p>
      <a className="btn btn-primary" href="/">
        Go to Today
      </a>
    </div>
  );
}

export const router = createBrowserRouter([
  {
    path: "/",
    Component: Shell,
    ErrorBoundary: WentWrong,
    children: [
      { index: true, Component: TodayPage },
      { path: "returns", Component: ReturnsPage },
      { path: "campaigns", Component: CampaignsPage },
      { path: "campaigns/new", Component: NewDropPage },
      { path: "campaigns/plan", Component: PlanPage },
      { path: "campaigns/:id", Component: CampaignPage },
      { path: "campaigns/:id/report", Component: ReportPage },
      { path: "calendar", Component: CalendarPage },
      { path: "responses", Component: ResponsesPage },
      { path: "lists", Component: ListsPage },
      { path: "lists/new", Component: ImportPage },
      { path: "lists/:id", Component: ListPage },
      { path: "lists/:id/recipients/:recipientId", Component: RecipientPage },
      { path: "lists/:id/reload", Component: ReloadPage },
      { path: "lists/:id/versions", Component: VersionsPage },
      { path: "lists/:id/details/new", Component: DetailImportPage },
      { path: "suppressions/:id", Component: SuppressionPage },
      { path: "designs", Component: DesignsPage },
      { path: "designs/document/:upload", Component: DocumentPage },
      { path: "designs/:id", Component: DesignPage },
      {
        path: "drops/:id",
        Component: DropPage,
        children: [
          { index: true, element: <Navigate to="proof" replace /> },
          { path: "who", Component: WhoPlace },
          { path: "what", Component: WhatPlace },
          {
            path: "proof",
            Component: ProofPlace,
            children: [
              { index: true, Component: BenchPlace },
              { path: "set", Component: ProofSetPlace },
              { path: "issues", Component: IssuesPlace },
              { path: "letter/:recipientId/:designId", Component: OneOffPage },
            ],
          },
          { path: "produce", Component: ProducePlace },
          { path: "produce/:runId", Component: RunPage },
          { path: "ledger", Component: LedgerPlace },
        ],
      },
      { path: "devices", Component: DevicesPage },
      { path: "devices/post-office", Component: InboxPage },
      { path: "settings", Component: SettingsPage },
      { path: "settings/salutations", Component: SalutationsPage },
      { path: "settings/prices", Component: PricesPage },
      { path: "settings/calendar", Component: CalendarSettingsPage },
      { path: "settings/contact-limit", Component: ContactPage },
      { path: "settings/typefaces", Component: TypefacesPage },
      { path: "*", Component: WentWrong },
    ],
  },
]);
