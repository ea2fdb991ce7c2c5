import { type InvalidateOptions, type InvalidateQueryFilters, QueryClient, type QueryKey } from "@tanstack/react-query";

/**
 * What was read of the server. To have something read again also overtakes a first read that is still under way: it was
 * asked before what made it old, and what it brings would pass for new.
 */
export class Reads extends QueryClient {
  override invalidateQueries<T extends QueryKey = QueryKey>(
    filters?: InvalidateQueryFilters<T>,
    options?: InvalidateOptions,
  ) {
    const first = this.getQueryCache()
      .findAll(filters)
      .filter(({ state }) => state.data === undefined && state.fetchStatus === "fetching");
    for (const query of first) query.cancel({ revert: true, silent: true });
    return super.invalidateQueries(filters, options);
  }
}
