package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"math/big"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"nephelon/core/job"
	"nephelon/docs"
)

// MaxFile is the largest plan file that is read, in bytes.
const MaxFile = 16 << 20

// Refusal says where a plan file is not one, and why.
type Refusal struct {
	Path string // JSON Pointer
	Text string
}

func (r *Refusal) Error() string {
	if r.Path == "" {
		return r.Text
	}
	return r.Path + ": " + r.Text
}

// Reader reads plan files, shelf files, facts and roster problems. It is made once, since it compiles
// their schemas.
type Reader struct{ plan, shelf, sheet, roster, facts *jsonschema.Schema }

// NewReader compiles the schemas.
func NewReader() (*Reader, error) {
	compiler := jsonschema.NewCompiler()
	compiler.AssertFormat()
	for name, text := range map[string][]byte{"plan.json": docs.PlanFileSchema, "shelf.json": docs.ShelfFileSchema,
		"roster.json": docs.RosterSchema, "facts.json": docs.FactsSchema} {
		document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		if err != nil {
			return nil, fmt.Errorf("read the schema %s: %w", name, err)
		}
		if err := compiler.AddResource(name, document); err != nil {
			return nil, fmt.Errorf("add the schema %s: %w", name, err)
		}
	}
	var r Reader
	for at, to := range map[string]**jsonschema.Schema{"plan.json": &r.plan, "shelf.json": &r.shelf,
		"shelf.json#/$defs/Product": &r.sheet, "roster.json": &r.roster,
		"facts.json": &r.facts} {
		schema, err := compiler.Compile(at)
		if err != nil {
			return nil, fmt.Errorf("compile the schema %s: %w", at, err)
		}
		*to = schema
	}
	return &r, nil
}

// Read reads a plan file. Unknown fields, wrong types and values outside what
// their field allows are refused, all at once, as joined Refusals.
func (r *Reader) Read(from io.Reader) (job.File, error) {
	text, document, err := parsed(from, "plan file")
	if err != nil {
		return job.File{}, err
	}
	return r.planOf(text, document)
}

// ReadEdited reads a plan file that an edit made of one that was read before. Of a file of
// usual size only what the edit brought is looked through for what no reader should be given.
func (r *Reader) ReadEdited(text []byte, steps []EditStep) (job.File, error) {
	const usual = 1 << 20
	fit := func(s EditStep) bool { return len(s.Value) == 0 || scanned(s.Value) == nil }
	for _, step := range steps {
		if len(text) > usual || !fit(step) {
			return r.Read(bytes.NewReader(text)) // which names the place
		}
	}
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return job.File{}, &Refusal{Text: "This is not JSON: " + place(text, err) + "."}
	}
	return r.planOf(text, document)
}

// planOf reads a plan file that is JSON.
func (r *Reader) planOf(text []byte, document any) (job.File, error) {
	var file job.File
	var err error
	if converted(document) {
		if text, err = json.Marshal(document); err != nil {
			return file, fmt.Errorf("write the file as it is today: %w", err)
		}
	}
	if err := validated(r.plan, document); err != nil {
		return file, err
	}
	return file, decoded(text, document, &file)
}

// Today reads a plan file, of an earlier format too, and writes it as it is today.
func (r *Reader) Today(text []byte) ([]byte, error) {
	file, err := r.Read(bytes.NewReader(text))
	if err != nil {
		return nil, err
	}
	if text, err = json.Marshal(file); err != nil {
		return nil, fmt.Errorf("write a plan file: %w", err)
	}
	return text, nil
}

// decoded reads a valid document into its type. A whole number may be written with
// a point.
func decoded(text []byte, document, into any) error {
	err := json.Unmarshal(text, into)
	var wrong *json.UnmarshalTypeError
	if errors.As(err, &wrong) && strings.HasPrefix(wrong.Value, "number") {
		if text, err = json.Marshal(whole(document)); err == nil {
			err = json.Unmarshal(text, into)
		}
	}
	if errors.As(err, &wrong) {
		return &Refusal{"/" + strings.ReplaceAll(wrong.Field, ".", "/"),
			"A " + wrong.Value + " cannot be here; compare it with the schema."}
	}
	if err != nil {
		return &Refusal{Text: "The file cannot be read: " + err.Error() + "."}
	}
	return nil
}

// whole writes numbers without a fraction as integers, throughout.
func whole(value any) any {
	switch v := value.(type) {
	case map[string]any:
		for name, inner := range v {
			v[name] = whole(inner)
		}
	case []any:
		for i, inner := range v {
			v[i] = whole(inner)
		}
	case json.Number:
		const exact = 1 << 53
		if f, err := v.Float64(); err == nil && f == math.Trunc(f) && math.Abs(f) < exact {
			return json.Number(strconv.FormatInt(int64(f), 10))
		}
	}
	return value
}

// parsed reads JSON of at most MaxFile.
func parsed(from io.Reader, what string) (text []byte, document any, err error) {
	text, err = io.ReadAll(io.LimitReader(from, MaxFile+1))
	if err != nil {
		return nil, nil, fmt.Errorf("read the %s: %w", what, err)
	}
	if len(text) > MaxFile {
		return nil, nil, &Refusal{Text: fmt.Sprintf("The file is larger than %d MB.", MaxFile>>20)}
	}
	text = bytes.TrimPrefix(text, []byte("\ufeff")) // some editors begin a file with a mark of its byte order
	if !utf8.Valid(text) {
		return nil, nil, &Refusal{Text: "This is not UTF-8 text; save it as UTF-8."}
	}
	if err := scanned(text); err != nil {
		var refusal *Refusal
		if errors.As(err, &refusal) {
			return nil, nil, refusal
		}
		return nil, nil, &Refusal{Text: "This is not JSON: " + place(text, err) + "."}
	}
	document, err = jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return nil, nil, &Refusal{Text: "This is not JSON: " + place(text, err) + "."}
	}
	return text, document, nil
}

// validated checks a document, giving all its refusals joined.
func validated(schema *jsonschema.Schema, document any) error {
	err := schema.Validate(document)
	if err == nil {
		return nil
	}
	var invalid *jsonschema.ValidationError
	if !errors.As(err, &invalid) {
		return fmt.Errorf("check the file: %w", err)
	}
	all := refusals(invalid, message.NewPrinter(language.English))
	slices.SortStableFunc(all, func(a, b error) int { return strings.Compare(a.Error(), b.Error()) })
	if more := len(all) - mostRefusals; more > 0 {
		all = append(all[:mostRefusals], &Refusal{Text: fmt.Sprintf("And %d more faults; correct these first.", more)})
	}
	return errors.Join(all...)
}

// mostRefusals limits how many faults of a file are named at once.
const mostRefusals = 40

// place says in which line a file stops being JSON.
func place(text []byte, err error) string {
	var syntax *json.SyntaxError
	if errors.As(json.Unmarshal(text, new(any)), &syntax) {
		line := 1 + bytes.Count(text[:min(int(syntax.Offset), len(text))], []byte("\n"))
		return fmt.Sprintf("line %d, %v", line, syntax)
	}
	return err.Error()
}

// refusals are the innermost causes of a failed validation.
func refusals(v *jsonschema.ValidationError, english *message.Printer) []error {
	if len(v.Causes) > 0 {
		var all []error
		for _, cause := range v.Causes {
			all = append(all, refusals(cause, english)...)
		}
		return all
	}
	path := ""
	for _, token := range v.InstanceLocation {
		path += "/" + pointed(token)
	}
	switch k := v.ErrorKind.(type) {
	case *kind.AdditionalProperties:
		var all []error
		for _, name := range k.Properties {
			all = append(all, &Refusal{path + "/" + pointed(name),
				"This field is not known here; check its spelling or remove it."})
		}
		return all
	case *kind.Required:
		var all []error
		for _, name := range k.Missing {
			all = append(all, &Refusal{path + "/" + name, "This field is missing."})
		}
		return all
	case *kind.Minimum:
		return []error{&Refusal{path, fmt.Sprintf("%s is too little; enter %s at least.", written(k.Got), written(k.Want))}}
	case *kind.ExclusiveMinimum:
		return []error{&Refusal{path, fmt.Sprintf("%s is too little; enter more than %s.", written(k.Got), written(k.Want))}}
	case *kind.Maximum:
		return []error{&Refusal{path, fmt.Sprintf("%s is too much; enter %s at most, and check its unit.", written(k.Got),
			written(k.Want))}}
	case *kind.ExclusiveMaximum:
		return []error{&Refusal{path, fmt.Sprintf("%s is too much; enter less than %s.", written(k.Got), written(k.Want))}}
	case *kind.MinLength:
		return []error{&Refusal{path, fmt.Sprintf("This is too short; write %d characters at least.", k.Want)}}
	case *kind.MaxLength:
		return []error{&Refusal{path, fmt.Sprintf("This is %d characters long; write %d at most.", k.Got, k.Want)}}
	case *kind.MinItems:
		return []error{&Refusal{path, fmt.Sprintf("%d entries are too few; enter %d at least.", k.Got, k.Want)}}
	case *kind.MaxItems:
		return []error{&Refusal{path, fmt.Sprintf("%d entries are too many; enter %d at most.", k.Got, k.Want)}}
	case *kind.Pattern:
		return []error{&Refusal{path, fmt.Sprintf("%q is not written as this has to be (%s).", k.Got, k.Want)}}
	case *kind.Format:
		like := map[string]string{"date-time": "2026-11-05T07:30:00Z", "date": "2026-11-05"}[k.Want]
		if like == "" {
			return []error{&Refusal{path, fmt.Sprintf("%q is not a valid %s.", fmt.Sprint(k.Got), k.Want)}}
		}
		return []error{&Refusal{path, fmt.Sprintf("%q is no day or time that there is; write it like %s.",
			fmt.Sprint(k.Got), like)}}
	case *kind.Type:
		return []error{&Refusal{path, fmt.Sprintf("There is a %s here where %s belongs.", k.Got,
			strings.Join(k.Want, " or "))}}
	case *kind.Enum:
		allowed := make([]string, len(k.Want))
		for i, w := range k.Want {
			allowed[i] = fmt.Sprint(w)
		}
		return []error{&Refusal{path, fmt.Sprintf("%q is not one of %s.", fmt.Sprint(k.Got), strings.Join(allowed, ", "))}}
	}
	return []error{&Refusal{path, sentence(v.ErrorKind.LocalizedString(english))}}
}

// written is a bound or a value as people write it.
func written(r *big.Rat) string {
	v, _ := r.Float64()
	return strconv.FormatFloat(v, 'g', 6, 64)
}

func sentence(text string) string {
	if text == "" {
		return text
	}
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

// Pointer turns a field location such as body.job.surfaces[0].name into a JSON
// Pointer.
func Pointer(location string) string {
	var path strings.Builder
	for part := range strings.SplitSeq(strings.TrimPrefix(location, "body."), ".") {
		name, rest, indexed := strings.Cut(part, "[")
		path.WriteString("/" + name)
		if indexed {
			if n, err := strconv.Atoi(strings.TrimSuffix(rest, "]")); err == nil {
				path.WriteString("/" + strconv.Itoa(n))
			}
		}
	}
	return path.String()
}

// Write writes a plan file for people to keep.
func Write(to io.Writer, file job.File) error {
	encoder := json.NewEncoder(to)
	encoder.SetIndent("", "  ")
	if err := encoder.Encode(file); err != nil {
		return fmt.Errorf("write the plan file: %w", err)
	}
	return nil
}
