import { articleEffect } from './bots/articles';
import { viewArticleQuestions } from './bots/articlequestions';
import { readSentBot } from './bots/botfiles';
import { viewSuggested } from './bots/otherwords';
import { viewQuality } from './bots/phrasequality';
import { findCustomers, viewCustomer, wordsOfContact } from './customers/customers';
import { customerFile } from './customers/customerfile';
import { viewCoaching } from './coaching/coachingviews';
import { pickToRate } from './coaching/picktorate';
import type { Actor } from './ground/actor';
import type { Host } from './ground/host';
import { checkPast } from './past/checkpast';
import { peopleCsvPart } from './people/peoplecsv';
import { behindFigure } from './review/behindfigure';
import { viewChanges } from './review/changes';
import { reviewCsv } from './review/csv';
import { viewEach } from './review/each';
import { makeDueDay } from './review/dueday';
import { viewReview } from './review/overview';
import { contactsPart } from './review/contactsfile';
import { findContacts } from './review/find';
import { viewSubject } from './review/subject';
import { viewOwnWork } from './review/ownwork';
import { viewPersonDay, viewTimeUsed } from './review/personday';
import { figuresToSend, viewReport, viewReports, viewSentReport } from './review/reportviews';
import { viewMessages } from './review/messages';
import { viewPromises } from './review/promises';
import { viewRanges } from './review/ranges';
import { contactsOfReason } from './review/reasoncontacts';
import { viewTwo } from './review/two';
import { readSlowFindings } from './queues/doorworld';
import { readWasUsed } from './removing/wasused';
import { viewText } from './review/viewtext';
import { findWords } from './words/findwords';
import { languageFile, readLanguageFile } from './words/languagefile';
import { viewLanguages } from './words/languages';
import { findEntries } from './workspace/historysearch';

/**
 * What takes long to read: functions of the database alone, so that a thread of its own can run them with a connection
 * that only reads. Each checks its own right and parses its own input.
 */
export const READINGS = {
  review: viewReview,
  'review-each': viewEach,
  'review-subject': viewSubject,
  'review-changes': viewChanges,
  'time-used': viewTimeUsed,
  'person-day': viewPersonDay,
  'review-two': viewTwo,
  'contacts-of-reason': contactsOfReason,
  'find-contacts': findContacts,
  behind: behindFigure,
  coaching: viewCoaching,
  'own-work': viewOwnWork,
  'pick-to-rate': pickToRate,
  'check-past': checkPast,
  'view-text': viewText,
  messages: viewMessages,
  'review-ranges': viewRanges,
  promises: viewPromises,
  reports: viewReports,
  report: viewReport,
  'sent-report': viewSentReport,
  'report-to-send': figuresToSend,
  'review-csv': reviewCsv,
  'contacts-file': contactsPart,
  /** For the house itself: nobody is asking. */
  'due-fact-day': (host: Host) => makeDueDay(host),
  'people-csv': peopleCsvPart,
  'slow-findings': readSlowFindings,
  'was-used': readWasUsed,
  'phrasebook-quality': viewQuality,
  customer: viewCustomer,
  'contact-words': wordsOfContact,
  'find-customers': findCustomers,
  'customer-file': customerFile,
  'other-words-suggested': viewSuggested,
  'sent-bot': readSentBot,
  'article-questions': viewArticleQuestions,
  'article-effect': articleEffect,
  'find-words': findWords,
  languages: viewLanguages,
  'language-file': languageFile,
  'language-read': readLanguageFile,
  history: (host: Host, actor: Actor, asked: unknown) => findEntries(host.db, actor, asked),
} as const;

export type ReadingName = keyof typeof READINGS;
export type ReadingResult<K extends ReadingName> = ReturnType<(typeof READINGS)[K]>;

/** Reads where it holds nobody up. Rejects with what the reading threw; an aborted signal stops it. */
export type Reading = <K extends ReadingName>(
  name: K,
  actor: Actor,
  asked: unknown,
  signal?: AbortSignal,
) => Promise<ReadingResult<K>>;

/** Runs a reading in this thread. */
export const readHere = <K extends ReadingName>(host: Host, name: K, actor: Actor, asked: unknown): ReadingResult<K> =>
  READINGS[name](host, actor, asked) as ReadingResult<K>;

/** In this thread: for tests and small tools. The server gives a pool instead. */
export const readingHere =
  (host: Host): Reading =>
  async (name, actor, asked) =>
    readHere(host, name, actor, asked);
