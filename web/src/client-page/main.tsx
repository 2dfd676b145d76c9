import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { ClientPage } from "./ClientPage.tsx";
import "../theme.css";

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <ClientPage />
  </StrictMode>,
);
