import { createBrowserRouter, Navigate } from "react-router";
import { Shell } from "./shell/Shell";
import { NoSuchPage, WentWrong } from "./shell/WentWrong";
import { TodayPage } from "./today/TodayPage";

/** A page that is loaded when somebody goes there: what one opens first is small. */
const page =
  <M extends Record<N, React.ComponentType>, N extends string>(load: () => Promise<M>, name: N) =>
  async () => ({ Component: (await load())[name] });

export const router = createBrowserRouter([
  {
    path: "/",
    Component: Shell,
    ErrorBoundary: WentWrong,
    HydrateFallback: () => null,
    children: [
      { index: true, Component: TodayPage },
      { path: "returns", lazy: page(() => import("./returns/ReturnsPage"), "ReturnsPage") },
      { path: "campaigns", lazy: page(() => import("./campaigns/CampaignsPage"), "CampaignsPage") },
      { path: "campaigns/new", lazy: page(() => import("./campaigns/NewDropPage"), "NewDropPage") },
      { path: "campaigns/plan", lazy: page(() => import("./campaigns/PlanPage"), "PlanPage") },
      { path: "campaigns/:id", lazy: page(() => import("./campaigns/CampaignPage"), "CampaignPage") },
      { path: "campaigns/:id/report", lazy: page(() => import("./report/ReportPage"), "ReportPage") },
      { path: "calendar", lazy: page(() => import("./calendar/CalendarPage"), "CalendarPage") },
      { path: "responses", lazy: page(() => import("./responses/ResponsesPage"), "ResponsesPage") },
      { path: "lists", lazy: page(() => import("./lists/ListsPage"), "ListsPage") },
      { path: "lists/new", lazy: page(() => import("./lists/ImportPage"), "ImportPage") },
      { path: "lists/:id", lazy: page(() => import("./lists/ListPage"), "ListPage") },
      { path: "lists/:id/recipients/:recipientId", lazy: page(() => import("./lists/RecipientPage"), "RecipientPage") },
      { path: "lists/:id/reload", lazy: page(() => import("./lists/ReloadPage"), "ReloadPage") },
      { path: "lists/:id/versions", lazy: page(() => import("./lists/VersionsPage"), "VersionsPage") },
      { path: "lists/:id/details/new", lazy: page(() => import("./lists/DetailImportPage"), "DetailImportPage") },
      { path: "suppressions/:id", lazy: page(() => import("./lists/SuppressionPage"), "SuppressionPage") },
      { path: "designs", lazy: page(() => import("./designs/DesignsPage"), "DesignsPage") },
      { path: "designs/document/:upload", lazy: page(() => import("./documents/DocumentPage"), "DocumentPage") },
      { path: "designs/:id", lazy: page(() => import("./designs/DesignPage"), "DesignPage") },
      {
        path: "drops/:id",
        lazy: page(() => import("./drop/DropPage"), "DropPage"),
        children: [
          { index: true, element: <Navigate to="proof" replace /> },
          { path: "who", lazy: page(() => import("./drop/WhoPlace"), "WhoPlace") },
          { path: "what", lazy: page(() => import("./drop/WhatPlace"), "WhatPlace") },
          {
            path: "proof",
            lazy: page(() => import("./drop/ProofPlace"), "ProofPlace"),
            children: [
              { index: true, lazy: page(() => import("./drop/BenchPlace"), "BenchPlace") },
              { path: "set", lazy: page(() => import("./drop/ProofSetPlace"), "ProofSetPlace") },
              { path: "issues", lazy: page(() => import("./drop/IssuesPlace"), "IssuesPlace") },
              { path: "letter/:recipientId/:designId", lazy: page(() => import("./drop/OneOffPage"), "OneOffPage") },
            ],
          },
          { path: "produce", lazy: page(() => import("./drop/ProducePlace"), "ProducePlace") },
          { path: "produce/:runId", lazy: page(() => import("./drop/RunPage"), "RunPage") },
          { path: "ledger", lazy: page(() => import("./drop/LedgerPlace"), "LedgerPlace") },
        ],
      },
      { path: "devices", lazy: page(() => import("./devices/DevicesPage"), "DevicesPage") },
      { path: "devices/post-office", lazy: page(() => import("./devices/InboxPage"), "InboxPage") },
      { path: "settings", lazy: page(() => import("./settings/SettingsPage"), "SettingsPage") },
      { path: "settings/salutations", lazy: page(() => import("./settings/SalutationsPage"), "SalutationsPage") },
      { path: "settings/prices", lazy: page(() => import("./settings/PricesPage"), "PricesPage") },
      { path: "settings/calendar", lazy: page(() => import("./settings/CalendarPage"), "CalendarSettingsPage") },
      { path: "settings/contact-limit", lazy: page(() => import("./settings/ContactPage"), "ContactPage") },
      { path: "settings/typefaces", lazy: page(() => import("./settings/TypefacesPage"), "TypefacesPage") },
      { path: "setup", lazy: page(() => import("./setup/SetupPage"), "SetupPage") },
      { path: "*", Component: NoSuchPage },
    ],
  },
]);
