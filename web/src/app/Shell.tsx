import { Box, Flex } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link, Outlet, useLocation, useNavigate, useOutletContext, useParams } from "react-router";
import type { Schemas } from "../api";
import { PersonMenu } from "../features/accounts";
import { Guide } from "../features/guide";
import { BalanceLine } from "../features/value";
import {
  Band,
  Bones,
  format,
  Guard,
  keys,
  Mark,
  Notice,
  PlaceProvider,
  useFrame,
  useKept,
  usePlace,
  useShortcut,
  useSigns,
  useWhenever,
  words,
} from "../shared";
import { Act, Button, Soft } from "../shared/ui";
import { FindBox } from "./FindBox";
import { Leaf, LeafMark, Leaves, Skip, Station } from "./frame";
import { KeysHelp } from "./KeysHelp";
import { Margin } from "./Margin";
import { ROOMS } from "./rooms";
import { Unsent } from "./Unsent";
import { useKeyboard } from "./useKeyboard";
import { useNews } from "./useNews";
import { useUndoes } from "./useUndoes";

interface Outer {
  person: Schemas["PersonOut"];
  mode: string;
  switchMode: () => void;
}

/** The frame: band with the period rail, stations, sheet, margin and the balance line. */
export function Shell() {
  const { project = "", page: pageCode = "" } = useParams();
  const outer = useOutletContext<Outer>();
  const frame = useFrame(project);
  useNews(project, frame.data?.revision ?? 0, frame.data?.outside ?? "", frame.dataUpdatedAt);
  if (frame.isPending) return <Bones />;
  if (!frame.data)
    return (
      <Notice bad>
        {frame.error?.message} <Link to="/">{words.frame.desk}</Link>
      </Notice>
    );
  const pages = frame.data.pages;
  const page = pages.find((p) => p.code === pageCode) ?? (pageCode === "now" ? pages.at(-1) : undefined);
  if (!page)
    return (
      <Notice bad>
        {words.frame.noPage(project, pageCode)} <Link to={`/${project}/now/plan`}>{words.frame.toOpen}</Link>
      </Notice>
    );
  return (
    <PlaceProvider
      key={`${project}/${page.code}`}
      project={project}
      page={page}
      frame={frame.data}
      person={{ ...outer.person, role: frame.data.role }}
      everywhere={outer.person.role}
    >
      <Framed frame={frame.data} page={page} outer={outer} />
    </PlaceProvider>
  );
}

function Framed({ frame, page, outer }: { frame: Schemas["FrameOut"]; page: Schemas["PageOut"]; outer: Outer }) {
  const [wide, setWide] = useKept("rooms-wide", true);
  const room = useLocation().pathname.split("/")[3] ?? "";
  const name = ROOMS.find((r) => r.path === room)?.word ?? "";
  const { setEffect } = usePlace();
  const queries = useQueryClient();
  useKeyboard(room);
  useUndoes();
  // What the last entry did is told in the room where it was made, and no longer.
  useWhenever([room], () => {
    setEffect(null);
    queries.setQueryData(keys.effect(frame.code), null);
  });
  useEffect(() => {
    document.title = `${frame.name} · ${name} · ${format.day(page.status)} · ${words.product}`;
  }, [frame.name, name, page.status]);
  return (
    <Flex direction="column" height="100vh">
      <Skip data-skip="" href="#sheet">
        {words.frame.skip}
      </Skip>
      <Band
        title={
          <Link to="/" data-free="" data-tip={`${frame.name}. ${words.frame.desk}`}>
            {frame.name}
          </Link>
        }
        under={`${frame.code} · ${words.frame.desk.toLowerCase()}`}
        end={
          <>
            <FindBox switchMode={outer.switchMode} mode={outer.mode} />
            <Guide room={room} />
            <KeysHelp />
            <PersonMenu person={outer.person} mode={outer.mode} switchMode={outer.switchMode} />
          </>
        }
      >
        <Rail frame={frame} page={page} />
      </Band>
      <Flex flex="1" minH="0">
        <Stations wide={wide} fold={() => setWide(!wide)} />
        <Box
          as="main"
          id="sheet"
          tabIndex={-1}
          flex="1"
          minW="0"
          bg="sheet"
          display="flex"
          flexDirection="column"
          overflow="hidden"
        >
          <Outlet />
        </Box>
        <Margin key={room} room={room} />
      </Flex>
      <Unsent />
      <Guard of={page.code}>
        <BalanceLine />
      </Guard>
    </Flex>
  );
}

function Rail({ frame, page }: { frame: Schemas["FrameOut"]; page: Schemas["PageOut"] }) {
  const navigate = useNavigate();
  const station = useLocation().pathname.split("/").slice(3).join("/") || "posting";
  const to = (code: string) => `/${encodeURIComponent(frame.code)}/${encodeURIComponent(code)}/${station}`;
  const goBy = (by: number) => {
    const next = frame.pages[frame.pages.findIndex((p) => p.code === page.code) + by];
    if (next) navigate(to(next.code));
  };
  const chosen = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    chosen.current?.scrollIntoView({ inline: "nearest", block: "nearest" });
  }, []);
  useShortcut("[", () => goBy(-1));
  useShortcut("]", () => goBy(1));
  return (
    <Leaves aria-label={words.frame.rail}>
      {frame.pages.map((p) => (
        <Leaf
          key={p.code}
          to={to(p.code)}
          ref={p.code === page.code ? chosen : undefined}
          wet={p.state === "wet"}
          chosen={p.code === page.code}
          aria-current={p.code === page.code ? "page" : undefined}
          data-tip={words.frame.leaf(
            p.number,
            `${format.dayName(p.status)} ${format.fullDay(p.status)}`,
            p.due ? words.frame.toClose : p.state,
            p.mark_word,
          )}
        >
          <span>{format.day(p.status)}</span>
          <LeafMark>
            <Mark mark={p.mark} size={12} />
            {p.due ? <Act as="em">{words.frame.due}</Act> : p.state === "wet" && <em>{words.frame.wet}</em>}
          </LeafMark>
        </Leaf>
      ))}
    </Leaves>
  );
}

/** How many findings are open. */
function Open() {
  const { project, page } = usePlace();
  const { data } = useSigns(project, page.code, "");
  return data ? (
    <Soft ml="6" fontWeight="400">
      {data}
    </Soft>
  ) : null;
}

function Stations({ wide, fold }: { wide: boolean; fold: () => void }) {
  return (
    <Flex
      as="nav"
      aria-label={words.frame.stations}
      direction="column"
      width={wide ? "132px" : "44px"}
      flex="none"
      pt="10"
      borderRightWidth="1px"
      borderColor="rule"
    >
      {ROOMS.map(({ path, word }) => (
        <Station key={path} to={path} data-tip={word}>
          {wide ? word : word.slice(0, 1)}
          {path === "checks" && wide && <Open />}
        </Station>
      ))}
      <Box flex="1" />
      <Button
        look="quiet"
        style={{ margin: "8px" }}
        onClick={fold}
        aria-expanded={wide}
        aria-label={words.frame.foldStations}
      >
        {wide ? "«" : "»"}
      </Button>
    </Flex>
  );
}
