import createClient from 'openapi-fetch'
import { patiently } from './patience'
import type { components, paths } from './schema.gen'

type Schemas = components['schemas']

export type PlanFile = Schemas['File']
export type Job = Schemas['Job']
export type Surface = Schemas['Surface']
export type Coat = Schemas['Coat']
export type Point = Schemas['Point']
export type Product = Schemas['Product']
export type Medium = Schemas['Medium']
export type Hardener = Schemas['Hardener']
export type Portion = Schemas['Portion']
export type TimeAt = Schemas['TimeAt']
export type ShelfLine = Schemas['ShelfLine']
export type OtherPlan = Schemas['OtherPlan']
export type SheetState = Schemas['SheetState']
export type SheetJudged = Schemas['SheetJudged']
export type SheetFact = Schemas['Fact']
export type ShelfImport = Schemas['ShelfImport']
export type PriceList = Schemas['PriceList']
export type PriceColumns = Schemas['PriceColumns']
export type PriceOffer = Schemas['PriceOffer']
export type OwnFigure = Schemas['OwnFigure']
export type Assumed = Schemas['Assumed']
export type Original = Schemas['Original']
export type SystemLine = Schemas['SystemLine']
export type StockGroup = Schemas['StockGroup']
export type Container = Schemas['Container']
export type House = Schemas['House']
export type Hours = Schemas['Hours']
export type Schools = Schemas['Methods']
export type School = Schemas['Question']
export type NewerSheet = Schemas['NewerSheet']
export type Fix = Schemas['Fix']
export type EditStep = Schemas['EditStep']
export type Line = Plan['line']
export type PourPlan = Schemas['PourPlan']
export type Stint = Schemas['Stint']
export type Passage = Schemas['Passage']
export type Pinch = Schemas['Pinch']
export type Begun = Schemas['Begun']
export type PourHour = Schemas['PourHour']
export type PourWay = Schemas['Way']
export type Chance = Schemas['Chance']
export type CrewMember = Schemas['Person']
export type Summary = Schemas['Summary']
export type RosterTry = Schemas['Try']
export type WayOut = Schemas['WayOut']
export type CalendarAddress = Schemas['CalendarAddress']
export type ForecastRead = Schemas['ForecastRead']
export type TypedDay = Schemas['TypedWeather']['days'][number]
export type Busy = NonNullable<Schemas['StandingCrew']['busy']>[number]
export type Reshape = Schemas['Reshape']
export type Taping = Schemas['Taping']
export type Walk = Schemas['Walk']
export type PailQuestion = Schemas['PailQuestion']
export type PailAnswer = Schemas['PailAnswer']
export type SpreadAnswer = Schemas['SpreadAnswer']
export type PumpAnswer = Schemas['PumpAnswer']
export type PartsQuestion = Schemas['PartsQuestion']
export type PartsAnswer = Schemas['PartsAnswer']
export type Kinetics = Schemas['Kinetics']
export type RatioCheck = Schemas['RatioCheck']
export type Source = Schemas['SourcedFilm']['source']
export type Plan = Schemas['Plan']
export type SurfacePlan = Schemas['SurfacePlan']
export type CoatPlan = Schemas['CoatPlan']
export type Purchase = Schemas['Purchase']
export type Trade = Schemas['Trade']
export type Together = Schemas['Together']
export type Card = Schemas['Card']
export type CoatTimes = Schemas['CoatTimes']
export type Colouring = Schemas['Colouring']
export type Cut = Schemas['Cut']
export type Working = Schemas['Working']
export type Finding = Schemas['Finding']
export type Step = Finding['step']
export type NextWork = Schemas['NextWork']
export type StepState = Schemas['StepState']
export type JobState = Schemas['JobState']
export type JobLine = Schemas['JobLine']
export type StaleSave = Schemas['StaleSave']
export type Drawing = Schemas['Drawing']
export type Closure = Schemas['Closure']
export type FloorPart = Schemas['Part']
export type FloorLine = Schemas['Line']
export type Hollow = Schemas['Hollow']
export type Side = Schemas['Side']
export type Takeoff = Schemas['Takeoff']
export type Top = Schemas['Top']
export type TopPiece = Schemas['TopPiece']
export type TopEdge = Schemas['TopEdge']
export type Pool = Schemas['Pool']
export type PoolPart = Schemas['PoolPart']
export type Section = Schemas['Section']
export type PhotoLine = Schemas['PhotoLine']
export type Survey = Schemas['Survey']
export type SurveyReading = Schemas['Reading']
export type Verdict = Schemas['Verdict']
export type Preparation = Schemas['Preparation']
export type PreparationTask = Schemas['PreparationTask']
export type StepChange = Schemas['StepChange']
export type OwnStep = Schemas['OwnStep']
export type Rule = Schemas['Rule']
export type Judged = Schemas['Judged']
export type InstrumentLine = Schemas['InstrumentLine']
export type Leg = Schemas['Leg']
export type Walked = Schemas['Walked']
export type Measured = Schemas['Measured']
export type Me = Schemas['Me']
export type Colleague = Schemas['Colleague']
export type Units = Me['units']
export type Clock = Me['clock']
export type RosterView = Schemas['RosterView']
export type Booked = Schemas['Booked']
export type Bookable = Schemas['Bookable']
export type Opening = Schemas['Opening']
export type StandingCrew = Schemas['StandingCrew']
export type Machinery = Schemas['Machinery']
export type Leave = Schemas['Leave']

export type RecordIssue = Schemas['RecordIssue']
export type RecordEvent = Schemas['RecordEvent']
export type RecordBody = Schemas['RecordBody']
export type RecordKind = RecordEvent['kind']
export type RecordDay = Schemas['RecordBoard']
export type RecordReach = Schemas['RecordReach']
export type RecordStep = Schemas['RecordStep']
export type RecordWait = Schemas['RecordWait']
export type JobWait = Schemas['JobWait']
export type RecordCoat = Schemas['RecordCoat']
export type RecordCoatDay = Schemas['RecordCoatDay']
export type RecordBatchDay = Schemas['RecordBatchDay']
export type RecordGateState = Schemas['RecordGateState']
export type RecordSay = Schemas['RecordSay']
export type RecordTrouble = Schemas['RecordTrouble']
export type RecordSurface = Schemas['RecordSurface']
export type RecordOpinion = Schemas['RecordOpinion']
export type RecordSymptom = Schemas['RecordSymptom']
export type RecordLate = Schemas['RecordLate']
export type RecordLearnt = Schemas['RecordLearnt']
export type PaceEffect = Schemas['PaceEffect']
export type EntryLine = Schemas['EntryLine']
export type FactorState = Schemas['FactorState']
export type FactorBegun = Schemas['FactorBegun']
export type CupGives = Schemas['CupGives']
export type SheetRead = Schemas['SheetRead']
export type LogState = Schemas['LogState']
export type StorageState = Schemas['StorageState']
export type PasswordLink = Schemas['PasswordLink']
export type SessionLine = Schemas['SessionLine']
export type RightsLine = Schemas['RightsLine']
export type AuditLine = Schemas['AuditLine']
export type Issues = Schemas['Issues']

export const api = createClient<paths>({
  credentials: 'same-origin',
  fetch: patiently,
})

/** What a refused request said, as one sentence. */
export function refusal(error: unknown, otherwise: string): string {
  const problem = error as
    { detail?: string; errors?: { message?: string; location?: string }[] | null } | undefined
  const details = (problem?.errors ?? [])
    .map((e) => [place(e.location), e.message].filter(Boolean).join(': '))
    .filter(Boolean)
  const text = details.length > 0 ? details.slice(0, 4).join('; ') : problem?.detail
  return text ?? otherwise
}

function place(location: string | undefined): string {
  return (location ?? '').replace(/^body\.?/, '')
}

/** What a request resolves to once it is answered. */
export interface Sent<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Sends a file as it is, and gives what the server made of it or what it said against it. */
async function sendFile<T>(path: string, file: Blob, type: string): Promise<Sent<T>> {
  const answer = await fetch(path, {
    method: 'POST',
    body: file,
    headers: { 'Content-Type': type },
    credentials: 'same-origin',
  })
  const body: unknown = await answer.json()
  return answer.ok ? { data: body as T, response: answer } : { error: body, response: answer }
}

/** Imports a plan file; the server checks it as the command line does. */
export function importPlanFile(file: Blob): Promise<Sent<JobState>> {
  return sendFile<JobState>('/api/jobs/import', file, 'application/json')
}

/** Brings a company's archive in: all of it, or nothing where it is stopped. */
export const bringArchive = (
  file: Blob,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<{ error?: unknown }> => sendWatched('/api/company/archive', file, signal, progress)

/** Reads data sheets from a file; nothing is kept yet. */
export function readShelfFile(file: Blob): Promise<Sent<ShelfImport>> {
  return sendFile<ShelfImport>('/api/shelf-file/reading', file, 'application/octet-stream')
}

/** Reads a maker's data sheet, as PDF or text; nothing is kept yet. */
export function readSheet(
  file: Blob,
  lines: Record<number, string>,
  without: number[] = [],
): Promise<Sent<SheetRead>> {
  const query = new URLSearchParams()
  if (without.length > 0) query.set('without', without.join(','))
  if (Object.keys(lines).length > 0) query.set('lines', JSON.stringify(lines))
  return sendFile<SheetRead>(`/api/shelf-file/sheet?${query}`, file, 'application/octet-stream')
}

/** Keeps a maker's document, to be named by the data sheet that is read from it. */
export function keepOriginal(file: Blob, name: string): Promise<Sent<Original>> {
  const query = new URLSearchParams({ name })
  return sendFile<Original>(`/api/originals?${query}`, file, 'application/octet-stream')
}

/** Reads a supplier's price list by columns, or as their lists were read before; nothing is kept yet. */
export function readPrices(file: Blob, supplier: string, columns?: PriceColumns): Promise<Sent<PriceList>> {
  const query = new URLSearchParams({ supplier, columns: columns ? JSON.stringify(columns) : '' })
  return sendFile<PriceList>(`/api/price-list/reading?${query}`, file, 'application/octet-stream')
}

/** Reads hours of weather from a file; nothing is kept yet. */
export function readForecast(file: Blob): Promise<Sent<ForecastRead>> {
  return sendFile<ForecastRead>('/api/forecast/file', file, 'application/octet-stream')
}

/** Reads the busy times of a calendar; nothing is kept yet. */
export function readBusy(file: Blob): Promise<Sent<Busy[]>> {
  return sendFile<Busy[]>('/api/busy', file, 'application/octet-stream')
}

/** Adds a photograph to a surface; gives all of the job's. */
export function sendPhoto(job: string, surface: string, file: Blob, id?: string): Promise<Sent<PhotoLine[]>> {
  return sendFile<PhotoLine[]>(
    `/api/jobs/${job}/surfaces/${encodeURIComponent(surface)}/photos${id ? `?id=${id}` : ''}`,
    file,
    'application/octet-stream',
  )
}

/** Sends a large file: how far it is sent is told, and it can be stopped. */
function sendWatched<T>(
  path: string,
  file: Blob,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<{ data?: T; error?: unknown }> {
  // fetch tells nothing while it sends, so these requests are of the older kind.
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('POST', path)
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.responseType = 'json'
    request.upload.onprogress = (event) => progress(event.total > 0 ? event.loaded / event.total : 1)
    request.upload.onload = () => progress(1)
    request.onload = () =>
      resolve(request.status < 300 ? { data: request.response as T } : { error: request.response as unknown })
    request.onerror = () => reject(new Error('the server does not answer'))
    request.onabort = () => reject(new Error('stopped'))
    signal.addEventListener('abort', () => request.abort())
    request.send(file)
  })
}

/** Reads the outlines in a drawing; nothing is kept. */
export const readDrawing = (
  file: Blob,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<{ data?: Drawing; error?: unknown }> => sendWatched('/api/drawing', file, signal, progress)
