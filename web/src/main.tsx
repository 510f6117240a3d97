import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router";
import { queryClient } from "./api/client";
import { router } from "./router";
import { PersonGate } from "./shell/PersonGate";
import "./theme.css";

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <PersonGate>
          <RouterProvider router={router} />
        </PersonGate>
      </QueryClientProvider>
    </StrictMode>,
  );
