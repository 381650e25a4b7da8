package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"nephelon/core/job"
	"nephelon/docs"
)

// MaxFile is the largest plan file that is read, in bytes.
const MaxFile = 16 << 20

// Refusal tells where a plan file is not one, and why.
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

// Reader reads plan files and shelf files. It is made once, since it compiles
// their schemas.
type Reader struct{ plan, shelf, sheet *jsonschema.Schema }

// NewReader compiles the schemas.
func NewReader() (*Reader, error) {
	compiler := jsonschema.NewCompiler()
	for name, text := range map[string][]byte{"plan.json": docs.PlanFileSchema, "shelf.json": docs.ShelfFileSchema} {
		document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		if err != nil {
			return nil, fmt.Errorf("read the schema %s: %w", name, err)
		}
		if err := compiler.AddResource(name, document); err != nil {
			return nil, fmt.Errorf("add the schema %s: %w", name, err)
		}
	}
	var r Reader
	for at, to := range map[string]**jsonschema.Schema{"plan.json": &r.plan, "shelf.json": &r.shelf, "shelf.json#/$defs/Product": &r.sheet} {
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
	var file job.File
	text, document, err := parsed(from, "plan file")
	if err != nil {
		return file, err
	}
	if err := validated(r.plan, document); err != nil {
		return file, err
	}
	if err := json.Unmarshal(text, &file); err != nil {
		return file, &Refusal{Text: "The file cannot be read: " + err.Error() + "."}
	}
	return file, nil
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
	return errors.Join(refusals(invalid, message.NewPrinter(language.English))...)
}

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
		path += "/" + strings.NewReplacer("~", "~0", "/", "~1").Replace(token)
	}
	switch k := v.ErrorKind.(type) {
	case *kind.AdditionalProperties:
		var all []error
		for _, name := range k.Properties {
			all = append(all, &Refusal{path + "/" + name, "This field is not known here; check its spelling or remove it."})
		}
		return all
	case *kind.Required:
		var all []error
		for _, name := range k.Missing {
			all = append(all, &Refusal{path + "/" + name, "This field is missing."})
		}
		return all
	case *kind.Type:
		return []error{&Refusal{path, fmt.Sprintf("A %s stands here where %s belongs.", k.Got, strings.Join(k.Want, " or "))}}
	case *kind.Enum:
		allowed := make([]string, len(k.Want))
		for i, w := range k.Want {
			allowed[i] = fmt.Sprint(w)
		}
		return []error{&Refusal{path, fmt.Sprintf("%q is not one of %s.", fmt.Sprint(k.Got), strings.Join(allowed, ", "))}}
	}
	return []error{&Refusal{path, sentence(v.ErrorKind.LocalizedString(english))}}
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
