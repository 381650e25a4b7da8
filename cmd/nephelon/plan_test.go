package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"nephelon/core/plan"
	"nephelon/core/roster"
)

const demoFile = "../../demo/jobs/settling-basin.nephelon.json"

func nephelon(t *testing.T, in string, arguments ...string) (code int, out, complaint string) {
	t.Helper()
	var stdout, stderr bytes.Buffer
	code = run(t.Context(), arguments, strings.NewReader(in), &stdout, &stderr)
	return code, stdout.String(), stderr.String()
}

func TestPlanPrintsTheWholePlan(t *testing.T) {
	code, out, complaint := nephelon(t, "", "plan", demoFile)
	var p plan.Plan
	if err := json.Unmarshal([]byte(out), &p); err != nil || code != 0 || complaint != "" {
		t.Fatalf("code %d, %v, %q", code, err, complaint)
	}
	if len(p.Surfaces) != 1 || len(p.Surfaces[0].Coats[1].Cards) == 0 || len(p.Purchases) != 2 {
		t.Errorf("a plan of %d surfaces, %d purchases", len(p.Surfaces), len(p.Purchases))
	}
	text, err := os.ReadFile(demoFile)
	if err != nil {
		t.Fatal(err)
	}
	if _, again, _ := nephelon(t, string(text), "plan", "-"); again != out {
		t.Error("standard input gives another plan than the file")
	}
	if _, us, _ := nephelon(t, string(text), "plan", "-units", "us", "-"); !strings.Contains(us, "lb/gal was assumed") {
		t.Error("sentences in US units are not")
	}
}

func TestPlanRefusesWithThePathAndNothingElse(t *testing.T) {
	text, err := os.ReadFile(demoFile)
	if err != nil {
		t.Fatal(err)
	}
	replaced := func(from, to string) string {
		t.Helper()
		if !bytes.Contains(text, []byte(from)) {
			t.Fatalf("the demo file has no %s", from)
		}
		return strings.Replace(string(text), from, to, 1)
	}
	cases := []struct {
		name, in, says string
		arguments      []string
	}{
		{"not JSON", "{", "not JSON", []string{"plan", "-"}},
		{"unknown field", replaced(`"site"`, `"sight"`), "/job/sight: This field is not known", []string{"plan", "-"}},
		{"wrong type", replaced(`"version": 3`, `"version": "3"`), "/version: There is a string here", []string{"plan", "-"}},
		{"impossible value", replaced(`"spreaders": 2`, `"spreaders": 0`), "/job/crew/spreaders", []string{"plan", "-"}},
		{"crossing walls", replaced(`"x": 13.9`, `"x": -13.9`),
			"/job/surfaces/0/floor/outline: Basin floor: The outline crosses itself", []string{"plan", "-"}},
		{"not a number", replaced(`"spreaders": 2`, `"spreaders": NaN`), "/job/crew/spreaders: NaN is no number in JSON",
			[]string{"plan", "-"}},
		{"a character that ends texts", replaced(`"site": "`, `"site": "\u0000`),
			"/job/site: A text holds a character that ends texts", []string{"plan", "-"}},
		{"year 0", replaced(`"currency"`, `"start": "0000-11-30T07:00", "currency"`), "/job/start: The year of",
			[]string{"plan", "-"}},
		{"year 9999", replaced(`"currency"`, `"start": "9999-12-31T23:00", "currency"`), "/job/start: The year of",
			[]string{"plan", "-"}},
		{"verdicts of year 9999", string(text), "-at: the year 9999", []string{"plan", "-at", "9999-12-31T00:00:00Z", "-"}},
		{"a break over the whole shift", replaced(`"currency"`,
			`"hours": {"days": ["mon"], "from": "07:00", "until": "16:00", "breaks": [{"from": "07:00", "until": "16:00"}]}, "currency"`),
			"/job/hours/breaks: The breaks leave no time to work", []string{"plan", "-"}},
		{"no such file", "", "no such file", []string{"plan", "nowhere.json"}},
		{"no file", "", "give a plan file", []string{"plan"}},
		{"unknown units", "", "give a plan file", []string{"plan", "-units", "cubits", demoFile}},
		{"unknown flag", "", "not defined", []string{"plan", "-colour"}},
		{"unknown command", "", "nephelon plans", []string{"paint"}},
	}
	for _, c := range cases {
		code, out, complaint := nephelon(t, c.in, c.arguments...)
		if code != 2 || out != "" || !strings.Contains(complaint, c.says) {
			t.Errorf("%s: code %d, printed %q, complained %q; want it to say %q", c.name, code, out, complaint, c.says)
		}
	}
}

// Without heat and at one order the reaction has a closed form: at k = 1e-4/s and
// order 2 half of it has reacted after 10,000 s.
func TestCurePrintsTheHistory(t *testing.T) {
	question := `{"kinetics":{"a1":0.0001,"e1":0,"a2":0,"e2":0,"m":1,"n":2,"heat":0,"cp":1800,"gel":0.5},
		"vessel":{"mass":2,"density":1100,"loss":8,"start":21,"air":21},"until":20000}`
	code, out, complaint := nephelon(t, question, "cure", "-")
	var answer struct {
		Gel     float64
		Moments []struct{ Time, Temperature, Reacted float64 }
	}
	if err := json.Unmarshal([]byte(out), &answer); err != nil || code != 0 {
		t.Fatalf("%d %v %s", code, err, complaint)
	}
	last := answer.Moments[len(answer.Moments)-1]
	if answer.Gel < 9999 || answer.Gel > 10001 || last.Time != 20000 || last.Temperature != 21 {
		t.Errorf("gel at %v, at the end %+v", answer.Gel, last)
	}
	for name, bad := range map[string]string{
		"no JSON": "a bucket", "two of them": `{"vessel":{"mass":1,"density":1100}} {}`,
		"no such air":   `{"vessel":{"mass":1,"density":1100,"air":900}}`,
		"exponent of 9": `{"kinetics":{"a1":1,"m":9,"cp":1800,"gel":0.5},"vessel":{"mass":1,"density":1100}}`,
		"a book":        `"` + strings.Repeat("x", 1<<20) + `"`, "unknown field": `{"pail":3}`,
		"no mass": `{"vessel":{"density":1100}}`, "too long": `{"vessel":{"mass":1,"density":1100},"until":1e9}`,
		"no pot life": `{"vessel":{"mass":1,"density":1100},"sheet":{"potLife":0,"vessel":{"mass":1,"density":1100}}}`,
	} {
		if code, out, complaint := nephelon(t, bad, "cure", "-"); code != exitRefused || out != "" || complaint == "" {
			t.Errorf("%s: %d %q %q", name, code, out, complaint)
		}
	}
	// What decides the answer is never taken as 0 where it is left out or null, and no type of
	// Go is named.
	whole := `{"mass":2,"density":1100,"loss":8,"start":21,"air":19}`
	if code, _, complaint := nephelon(t, `{"vessel":`+whole+`,"sheet":{"potLife":1800,"vessel":`+whole+`}}`, "cure",
		"-"); code != 0 {
		t.Fatal(code, complaint)
	}
	for bad, says := range map[string]string{
		`{}`: "vessel.mass: this field is missing",
		`{"vessel":{"mass":2,"density":1100,"loss":8,"air":19}}`:              "vessel.start: this field is missing",
		`{"vessel":{"mass":2,"density":1100,"loss":8,"start":21,"air":null}}`: "vessel.air: this field is missing",
		`{"vessel":{"mass":2,"density":1100,"start":21,"air":19}}`:            "vessel.loss: this field is missing",
		`{"vessel":` + whole + `,"sheet":{"vessel":` + whole +
			`}}`: "sheet.potLife: this field is missing",
		`{"vessel":` + whole +
			`,"sheet":{"potLife":1800,"vessel":{"mass":1,"density":1100,"start":20}}}`: "sheet.vessel.air: this field is " +
			"missing",
		`{"vessel":{"mass":"2 kg"}}`: "vessel.mass: a string stands here; enter a number",
		`[]`:                         "question: an array stands here; enter an object",
	} {
		code, out, complaint := nephelon(t, bad, "cure", "-")
		if code != exitRefused || out != "" || !strings.Contains(complaint, says) || strings.Contains(complaint, "Go ") ||
			strings.Contains(complaint, "float64") {
			t.Errorf("%s: %d %q", bad, code, complaint)
		}
	}
}

func TestBuyAddsSeveralJobsUp(t *testing.T) {
	code, out, complaint := nephelon(t, "", "buy", demoFile, "../../demo/jobs/baggage-hall.nephelon.json")
	var got plan.Together
	if err := json.Unmarshal([]byte(out), &got); err != nil || code != 0 || complaint != "" {
		t.Fatalf("code %d, %v, %q", code, err, complaint)
	}
	if len(got.Lines) < 2 || got.Cost == nil || *got.Cost > *got.Apart {
		t.Errorf("%d lines for %v, apart %v", len(got.Lines), got.Cost, got.Apart)
	}
	if code, out, complaint := nephelon(t, "", "plan", demoFile, demoFile); code != exitRefused || out != "" ||
		!strings.Contains(complaint, "nephelon buy") {
		t.Errorf("two files to plan: code %d, %q", code, complaint)
	}
}

// The pour of a coat by command: repeatable by its seed, and refused with what would be
// right.
func TestPourPrintsTheTrain(t *testing.T) {
	code, out, complaint := nephelon(t, "", "pour", "-runs", "200", "-seed", "9", demoFile)
	var a pourAnswer
	if err := json.Unmarshal([]byte(out), &a); err != nil || code != 0 || complaint != "" {
		t.Fatalf("code %d, %v, %q", code, err, complaint)
	}
	if len(a.Run.Passages) < 2 || len(a.Run.Parts) == 0 || a.Odds == nil || a.Odds.Runs != 200 {
		t.Errorf("%d batches, odds %+v", len(a.Run.Passages), a.Odds)
	}
	if _, again, _ := nephelon(t, "", "pour", "-runs", "200", "-seed", "9", demoFile); again != out {
		t.Error("the same seed gives other odds")
	}
	for says, arguments := range map[string][]string{
		"the coats are":             {"pour", "-coat", "nowhere", demoFile},
		"ask for 0 to":              {"pour", "-runs", "-3", demoFile},
		"-first: no realistic pace": {"pour", "-first", "90h", demoFile},
		"-first: enter how":         {"pour", "-first", "-3m", demoFile},
		"give one plan":             {"pour", demoFile, demoFile},
		"give a plan file,":         {"pour"},
	} {
		if code, out, complaint := nephelon(t, "", arguments...); code != exitRefused || out != "" ||
			!strings.Contains(complaint, says) {
			t.Errorf("%v: code %d, %q", arguments, code, complaint)
		}
	}
}

// A job without coats says so, in place of an empty list.
func TestPourOfAJobWithoutCoats(t *testing.T) {
	var f map[string]any
	text, err := os.ReadFile(demoFile)
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(text, &f); err != nil {
		t.Fatal(err)
	}
	for _, s := range f["job"].(map[string]any)["surfaces"].([]any) {
		s.(map[string]any)["coats"] = []any{}
	}
	bare, err := json.Marshal(f)
	if err != nil {
		t.Fatal(err)
	}
	if code, _, complaint := nephelon(t, string(bare), "pour", "-"); code != exitRefused ||
		!strings.Contains(complaint, "the job has no coats") {
		t.Errorf("code %d, %q", code, complaint)
	}
}

// A problem of the roster by hand: primed on the first day from 7 to 9, coated 12 hours
// later at the least, so on the next from 7 to 10. Without the shift of that day its
// window closes, and the exit code says so.
func TestRosterPrintsTheSchedule(t *testing.T) {
	problem := func(shifts string) string {
		return `{"format":"nephelon-roster","version":1,"slotMinutes":60,"horizon":72,"crews":[{"id":"a","skills":[],"shifts":[` + shifts + `]}],
			"jobs":[{"id":"j","tasks":[{"id":"prime","duration":2},{"id":"coat","duration":3,"after":[{"task":"prime","minLag":12,"maxLag":30}]}]}]}`
	}
	ask := func(text string) (int, string, string) { return nephelon(t, text, "roster", "-seconds", "2", "-") }
	code, out, complain := ask(problem(`{"from":7,"until":16},{"from":31,"until":40}`))
	var a roster.Answer
	if err := json.Unmarshal([]byte(out), &a); err != nil || code != 0 {
		t.Fatalf("%d: %v %s", code, err, complain)
	}
	if len(a.Bookings) != 2 || a.Bookings[0].Start != 7 || a.Bookings[1].Start != 31 || !a.Optimal {
		t.Errorf("%+v", a)
	}
	if code, out, complain = ask(problem(`{"from":7,"until":16},{"from":55,"until":64}`)); code != exitNoPlan ||
		out != "" || !strings.Contains(complain, "j/coat, j/prime") {
		t.Errorf("%d: %s %s", code, out, complain)
	}
	if code, _, complain = ask(problem(`{"from":7,"until":7}`)); code != exitRefused ||
		!strings.Contains(complain, "/crews/0/shifts/0/until") {
		t.Errorf("%d: %s", code, complain)
	}
}

// A plan follows what is booked, with the first kit opened when the crew begins; facts that cannot be are refused
// with the place.
func TestPlanFollowsTheFacts(t *testing.T) {
	code, out, complaint := nephelon(t, "", "plan", demoFile)
	var free plan.Plan
	if err := json.Unmarshal([]byte(out), &free); err != nil || code != 0 {
		t.Fatalf("code %d, %v, %q", code, err, complaint)
	}
	coat := free.Surfaces[0].Coats[0].ID
	facts := func(text string) string {
		t.Helper()
		name := filepath.Join(t.TempDir(), "facts.json")
		if err := os.WriteFile(name, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
		return name
	}
	booking := `{"task": "coat/` + coat + `/pour", "from": "2031-03-04T07:00:00Z", "until": "2031-03-04T17:00:00Z"}`
	code, out, complaint = nephelon(t, "", "plan", "-facts",
		facts(`{"now": "2031-03-03T06:00:00Z", "bookings": [`+booking+`]}`), demoFile)
	var p plan.Plan
	if err := json.Unmarshal([]byte(out), &p); err != nil || code != 0 {
		t.Fatalf("code %d, %v, %q", code, err, complaint)
	}
	times := p.Surfaces[0].Coats[0].Times
	if times.Basis != "booked" || times.Begins.UTC().Format(time.RFC3339) != "2031-03-04T07:00:00Z" ||
		times.End.UTC().Format(time.RFC3339) < "2031-03-04T17:00:00Z" || p.Surfaces[0].Coats[1].Times.Basis != "proposed" {
		t.Errorf("%+v", times)
	}
	code, out, complaint = nephelon(t, "", "pour", "-coat", coat, "-facts",
		facts(`{"now": "2031-03-03T06:00:00Z", "bookings": [`+booking+`]}`), demoFile)
	if code != 0 || !strings.Contains(out, times.Start.Format(time.RFC3339)) {
		t.Errorf("the pour begins otherwise than the plan: %d, %q", code, complaint)
	}
	for says, text := range map[string]string{
		"not JSON": `{`, "/bookings/1/task": `{"now": "2031-03-03T06:00:00Z", "bookings": [` + booking + `, ` + booking + `]}`,
		"/bookings/0/until": `{"now": "2031-03-03T06:00:00Z", "bookings": [` +
			strings.Replace(booking, "T17", "T06", 1) + `]}`,
		"weather": `{"now": "2031-03-03T06:00:00Z", "weather": []}`, "now": `{}`,
	} {
		if code, out, complaint := nephelon(t, "", "plan", "-facts", facts(text), demoFile); code == 0 || out != "" ||
			!strings.Contains(complaint, says) || !strings.Contains(complaint, "-facts") {
			t.Errorf("%s: %d, %q, %q", text, code, out, complaint)
		}
	}
}
