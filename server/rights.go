package server

import (
	"context"
	"maps"
	"net/http"
	"slices"
	"sync"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/server/api"
	"nephelon/store"
)

// level says who may call an operation.
type level int

// The levels, from nobody up. An operation that is not in the table is refused to everyone.
const (
	refusedToAll level = iota
	ownersOnly
	keepersOnly // owners and estimators
	leadsToo    // and leads
	everybody   // who is signed in
	anyone      // with no session, too
)

// may reports whether a role is at a level.
func (l level) may(r store.Role) bool {
	switch l {
	case refusedToAll:
		return false
	case ownersOnly:
		return r == store.Owner
	case keepersOnly:
		return r == store.Owner || r == store.Estimator
	case leadsToo:
		return r == store.Owner || r == store.Estimator || r == store.Lead
	case everybody, anyone:
	}
	return true
}

// rights returns who may do what, by operation.
func rights() map[string]level {
	table := make(map[string]level)
	for l, operations := range map[level][]string{
		anyone: {"signIn", "signOut", "usePasswordLink", "readCalendar"},
		everybody: {
			"me", "setUnits", "setPassword", "confirmPassword", "sessions", "endSessions", "factor", "beginFactor",
			"setFactor",
			"removeFactor", "rights", "time", "waits",
			// Cards, the day, and what they need.
			"jobs", "job", "jobChanges", "issue", "issues", "events", "eventChanges", "log", "record", "opinions",
			"symptoms",
			"photos", "photo", "photoThumb", "addPhoto", "instruments", "readInstrument", "weigh", "tare", "forecast",
			"typedForecast",
			"rules", "house",
			"roster", "rosterToday", "rosterPlaces",
			// Calculators, which keep nothing.
			"read", "readWalk", "checkWalk", "measure", "part", "reshape", "sections", "pour", "pourWays",
			"pourStarts", "pourHours", "pourOdds",
			"bench", "benchStart", "benchUsual", "benchParts", "benchPump", "benchSpread", "checkRatio",
		},
		leadsToo: {
			"readForecast",
			"addJob", "importJob", "exportJob", "saveJob", "copySurface", "captionPhoto", "removePhoto", "readDrawing",
			"shelf", "sheet", "original",
			"judgeSheet", "weighCup", "systems", "stock", "judgeStore", "readLabel", "saveContainer", "takeOutContainer",
			"buyTogether",
			"people",
			"rosterFile", "recordFile", "entries", "learnt", "storage", "compareWays", "assumptions",
			"ownFigures",
			"paceEffects", "otherProduct",
		},
		keepersOnly: {
			"archiveJob", "issuePlan", "saveHouse", "saveSystem", "addSamples", "deleteSystem", "saveSheet", "removeSheet",
			"restoreSheet",
			"saveMedium", "removeMedium",
			"readSheet", "keepOriginal", "readPrices", "keepPrices",
			"readShelfFile", "keepSheets", "writeShelfFile", "planRoster", "rosterWays", "keepRoster",
			"startRun",
			"lookAtRun", "stopRun",
			"calendarAddresses", "addCalendarAddress", "revokeCalendarAddress", "readBusy",
		},
		ownersOnly: {"addPerson", "changePerson", "makePasswordLink", "forgetPerson", "audit", "auditFile", "dropFactor",
			"wantFactor", "exportCompany", "importCompany", "checkLog"},
	} {
		for _, o := range operations {
			table[o] = l
		}
	}
	return table
}

// audited are the operations of which it is kept that they were done: what leaves the house,
// and what is taken away. Those with accounts and rights say more, each in its place.
func audited() map[string]string {
	return map[string]string{
		"exportJob": "job exported", "recordFile": "record exported", "rosterFile": "roster exported",
		"writeShelfFile": "shelf exported",
		"archiveJob":     "job archived, or brought back", "removePhoto": "photograph removed, or brought back",
		"deleteSystem": "system deleted",
		"removeSheet":  "sheet deleted", "removeMedium": "medium deleted", "takeOutContainer": "container taken out",
		"addCalendarAddress": "calendar address made", "revokeCalendarAddress": "calendar address revoked",
	}
}

// costly are the operations that work long or hold much. One person may ask for a few at once.
func costly() []string {
	return []string{
		"planRoster", "rosterWays", "pourOdds", "pourWays", "pourStarts", "pourHours", "compareWays", "assumptions",
		"ownFigures",
		"paceEffects",
		"buyTogether", "readDrawing", "addPhoto",
		"importJob",
		"readShelfFile", "readSheet", "readPrices", "writeShelfFile", "recordFile", "rosterFile", "learnt", "exportCompany",
		"importCompany", "readBusy",
		"checkLog",
		"readForecast",
	}
}

// planning are the operations that plan a job or the roster, which its size decides how long
// takes. An open page asks for a few at once.
func planning() []string {
	return []string{
		"job", "addJob", "saveJob", "copySurface", "pour", "sections", "measure", "issuePlan", "otherProduct",
		"issues", "roster",
		"rosterPlaces", "keepRoster",
	}
}

// How many of either kind one person may have under way at a server.
const (
	mostCostly   = 6
	mostPlanning = 24
)

// limited returns what bounds each operation that works long.
func limited() map[string]*turns {
	all := make(map[string]*turns)
	for of, operations := range map[*turns][]string{newTurns(mostCostly): costly(),
		newTurns(mostPlanning): planning()} {
		for _, o := range operations {
			all[o] = of
		}
	}
	return all
}

// turns counts how many operations each person has under way.
type turns struct {
	mutex sync.Mutex
	most  int
	at    map[uuid.UUID]int
}

func newTurns(most int) *turns { return &turns{most: most, at: make(map[uuid.UUID]int)} }

// tryAcquire takes a place for a person and reports whether one was free.
func (t *turns) tryAcquire(who uuid.UUID) bool {
	t.mutex.Lock()
	defer t.mutex.Unlock()
	if t.at[who] >= t.most {
		return false
	}
	t.at[who]++
	return true
}

// release gives a place back.
func (t *turns) release(who uuid.UUID) {
	t.mutex.Lock()
	defer t.mutex.Unlock()
	if t.at[who]--; t.at[who] == 0 {
		delete(t.at, who)
	}
}

// RightsLine is an operation with who may call it.
type RightsLine struct {
	Operation string       `json:"operation"`
	Roles     []store.Role `json:"roles"`
	Anyone    bool         `json:"anyone,omitempty" doc:"Whether it needs no session"`
}

func (s *Server) rightsRoutes() {
	api.Register(s.api, huma.Operation{OperationID: "rights", Summary: "List rights by operation",
		Method:      http.MethodGet,
		Path:        "/api/rights",
		Description: "Who may do what"},
		func(context.Context, *struct{}) (*api.Body[[]RightsLine], error) {
			lines := []RightsLine{}
			for _, o := range slices.Sorted(maps.Keys(s.rights)) {
				line := RightsLine{Operation: o, Roles: []store.Role{}, Anyone: s.rights[o] == anyone}
				for _, r := range []store.Role{store.Owner, store.Estimator, store.Lead, store.Hand} {
					if s.rights[o].may(r) {
						line.Roles = append(line.Roles, r)
					}
				}
				lines = append(lines, line)
			}
			return api.Answer(lines), nil
		})
}
