import { bind } from '../ground/bind';
import { askArticles, saveArticle, viewArticles } from './articles';
import { saveConnector, saveStandIn, saveHosts, tryConnector, viewConnections } from './connections';
import { type BotPartsDeps, undoableParts, removePart } from './keepparts';
import { saveShared, viewShared } from './sharedscenes';
import { readTableFile, saveTable, tableCsv } from './tables';

/** What bots share: shared scenes, connectors and the hosts they may ask, small tables, and articles. */
export const createBotParts = (deps: BotPartsDeps) => ({
  undoable: undoableParts(deps),
  ...bind(deps, {
    readTableFile,
    connections: viewConnections,
    saveConnector,
    tryConnector,
    saveTable,
    tableCsv,
    saveHosts,
    saveStandIn,
    shared: viewShared,
    saveShared,
    articles: viewArticles,
    saveArticle,
    askArticles,
    remove: removePart,
  }),
});
