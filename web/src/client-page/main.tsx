import { present } from "@humming-tide/core/presence";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { ClientPage } from "./ClientPage.tsx";
import "../theme.css";

createRoot(present(document.getElementById("root"))).render(
  <StrictMode>
    <ClientPage />
  </StrictMode>,
);
