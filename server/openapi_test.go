package server_test

import (
	"encoding/json"
	"log/slog"
	"regexp"
	"testing"

	"nephelon/server"
)

// Every operation has a summary of its own, and every description stands alone: it does not begin
// as the rest of a sentence.
func TestOpenAPIDescriptions(t *testing.T) {
	s, err := server.New(server.Options{Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	text, err := s.OpenAPI()
	if err != nil {
		t.Fatal(err)
	}
	var api map[string]any
	if err := json.Unmarshal(text, &api); err != nil {
		t.Fatal(err)
	}
	rest := regexp.MustCompile(`^(Of|Its|Their|That|By|In|To|On|For|With)\b`)
	operations, descriptions := make(map[string]string), 0
	var walk func(at any, path string)
	walk = func(at any, path string) {
		switch at := at.(type) {
		case map[string]any:
			if id, is := at["operationId"].(string); is {
				summary, _ := at["summary"].(string)
				if other, taken := operations[summary]; summary == "" || taken {
					t.Errorf("%s: the summary is %q, as of %q", id, summary, other)
				}
				operations[summary] = id
			}
			if text, is := at["description"].(string); is {
				if descriptions++; rest.MatchString(text) {
					t.Errorf("%s: %q", path, text)
				}
			}
			for key, value := range at {
				walk(value, path+"/"+key)
			}
		case []any:
			for _, value := range at {
				walk(value, path)
			}
		}
	}
	walk(api, "")
	if len(operations) < 110 || descriptions < 1000 {
		t.Errorf("%d operations and %d descriptions were found", len(operations), descriptions)
	}
}
