import { ChakraProvider } from "@chakra-ui/react";
import { MutationCache, QueryCache, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Problem } from "../api";
import { Guard, tellAnswered, tellUnread } from "../shared";
import { Reads } from "../shared/book";
import { system } from "../shared/ui/theme";
import { Places } from "./routes";

const Toasts = lazy(() => import("../shared/Toasts").then((m) => ({ default: m.Toasts })));
const Tips = lazy(() => import("../shared/Tips").then((m) => ({ default: m.Tips })));

/** Once more where nothing was said; a refusal is not asked for again. */
const retry = (failed: number, error: Error) => failed < 1 && !(error instanceof Problem && error.status >= 400);

/** What is shown stays when it can't be read again, and that is said; where nothing is shown yet, the room says it. */
const onError = (error: Error, query?: { state: { data: unknown } }) => {
  if (!query || query.state.data !== undefined) tellUnread(error);
};

const queries = new Reads({
  queryCache: new QueryCache({ onError, onSuccess: tellAnswered }),
  mutationCache: new MutationCache({ onError: (error) => onError(error) }),
  defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY, refetchOnWindowFocus: false, retry } },
});

/** Draws the application, in the words that are spoken by now. */
export function start(root: HTMLElement) {
  createRoot(root).render(
    <StrictMode>
      <ChakraProvider value={system}>
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <Guard>
              <Places />
            </Guard>
            <Suspense>
              <Tips />
              <Toasts />
            </Suspense>
          </BrowserRouter>
        </QueryClientProvider>
      </ChakraProvider>
    </StrictMode>,
  );
}
