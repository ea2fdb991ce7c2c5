import { ChakraProvider } from "@chakra-ui/react";
import { QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ComponentType } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import type { Schemas } from "../src/api";
import { PlaceProvider } from "../src/shared";
import type { Reads } from "../src/shared/book";
import { system } from "../src/shared/ui/theme";
import { ADA, FRAME, PAGE } from "./place";

interface Where {
  path: string;
  frame?: Schemas["FrameOut"];
  page?: Schemas["PageOut"];
}

/** A part of a room, on a page of a project, with what it reads through. */
export const inRoom = (Part: ComponentType, reads: Reads, { path, frame = FRAME, page = PAGE }: Where) =>
  render(
    <QueryClientProvider client={reads}>
      <ChakraProvider value={system}>
        <MemoryRouter initialEntries={[`/${frame.code}/${page.code}/${path}`]}>
          <PlaceProvider project={frame.code} page={page} frame={frame} person={ADA} everywhere="analyst">
            <Routes>
              <Route path="/:project/:page/*" element={<Part />} />
            </Routes>
          </PlaceProvider>
        </MemoryRouter>
      </ChakraProvider>
    </QueryClientProvider>,
  );
