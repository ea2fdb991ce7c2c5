import { Box, Flex } from "@chakra-ui/react";
import { useRef, useState } from "react";
import Markdown from "react-markdown";
import remarkGfm from "remark-gfm";
import { Modal, useWhenever, words } from "../../shared";
import { Anchor, Button, styled, Table } from "../../shared/ui";
import { pageOf, pages, pictureOf, titleOf } from "./pages";

const Prose = styled("div", {
  base: {
    maxW: "72ch",
    lineHeight: 1.55,
    "& h1": { fontFamily: "heading", fontWeight: 600, fontSize: "page", mb: "10" },
    "& h2": { fontFamily: "heading", fontWeight: 600, fontSize: "lead", mt: "18", mb: "6" },
    "& p, & ul, & ol, & pre": { mb: "10" },
    "& ul": { listStyle: "disc", pl: "18" },
    "& ol": { listStyle: "decimal", pl: "24" },
    "& img": { borderWidth: "1px", borderColor: "ruleStrong", maxW: "100%", my: "8" },
    "& code": { fontSize: "0.94em", bg: "paper", px: "4" },
    "& pre": { bg: "paper", p: "10", overflowX: "auto" },
  },
});

/** The guide over the room that one is in; its pages at the side, one of them shown. */
export function GuideDialog({ room, shut }: { room: string; shut: () => void }) {
  const [page, setPage] = useState(pageOf(room));
  const top = useRef<HTMLDivElement>(null);
  useWhenever([page], () => {
    top.current?.scrollTo(0, 0);
  });
  return (
    <Modal title={words.frame.guide} shut={shut} width="1040px" tall>
      <Flex
        as="nav"
        direction="column"
        align="flex-start"
        flex="none"
        width="190px"
        overflowY="auto"
        aria-label={words.frame.guidePages}
      >
        {[...pages.keys()].map((name) => (
          <Button
            key={name}
            look="bare"
            minH="24px"
            aria-current={name === page ? "page" : undefined}
            fontWeight={name === page ? 600 : 400}
            onClick={() => setPage(name)}
          >
            {titleOf(name)}
          </Button>
        ))}
      </Flex>
      <Box ref={top} flex="1" minW="0" overflowY="auto" tabIndex={0} role="region" aria-label={titleOf(page)}>
        <Prose>
          <Markdown
            skipHtml
            remarkPlugins={[remarkGfm]}
            components={{
              img: ({ src, alt }) => <img src={pictureOf(String(src))} alt={alt} loading="lazy" />,
              table: ({ children }) => <Table>{children}</Table>,
              a: ({ href = "", children }) =>
                pages.has(href) ? (
                  <Button look="link" onClick={() => setPage(href)}>
                    {children}
                  </Button>
                ) : (
                  <Anchor look="link" href={href}>
                    {children}
                  </Anchor>
                ),
            }}
          >
            {pages.get(page)}
          </Markdown>
        </Prose>
      </Box>
    </Modal>
  );
}
