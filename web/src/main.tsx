import { present } from "@humming-tide/core/presence";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { App } from "./App.tsx";
import { followLive } from "./server-state/follow-live.ts";
import { store } from "./store/store.ts";
import { applyTheme, storedTheme } from "./ui/theme.ts";
import "./theme.css";

applyTheme(storedTheme());
followLive(store.dispatch);
createRoot(present(document.getElementById("root"))).render(
  <StrictMode>
    <Provider store={store}>
      <Tooltip.Provider delayDuration={350}>
        <App />
      </Tooltip.Provider>
    </Provider>
  </StrictMode>,
);
