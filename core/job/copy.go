package job

import (
	"encoding/json"
	"fmt"
	"slices"

	"nephelon/core/material"
)

// CopySurface adds a surface of one job to another, with fresh ids and the data
// sheets and media its coats name. A sheet that the other job has already stays as it is
// there.
func CopySurface(from File, surface string, to *File, id func() string) error {
	at := slices.IndexFunc(from.Job.Surfaces, func(s Surface) bool { return s.ID == surface })
	if at < 0 {
		return fmt.Errorf("the job has no surface “%s”", surface)
	}
	text, err := json.Marshal(from.Job.Surfaces[at])
	if err != nil {
		return fmt.Errorf("encode surface: %w", err)
	}
	var tree any
	if err := json.Unmarshal(text, &tree); err != nil {
		return fmt.Errorf("decode surface: %w", err)
	}
	renew(tree, id)
	if text, err = json.Marshal(tree); err != nil {
		return fmt.Errorf("encode surface: %w", err)
	}
	var copied Surface
	if err := json.Unmarshal(text, &copied); err != nil {
		return fmt.Errorf("decode surface: %w", err)
	}
	if !slices.ContainsFunc(to.Job.Surfaces, func(s Surface) bool { return s.ID == copied.After }) {
		copied.After = ""
	}
	to.Job.Surfaces = append(slices.Clone(to.Job.Surfaces), copied)
	products, media := copied.names()
	bring(&to.Products, from.Products, products, func(p material.Product) string { return p.ID })
	bring(&to.Media, from.Media, media, func(m material.Medium) string { return m.ID })
	return nil
}

// renew gives every part of a tree that has an id a fresh one.
func renew(tree any, id func() string) {
	switch node := tree.(type) {
	case map[string]any:
		for key, value := range node {
			if _, named := value.(string); named && key == "id" {
				node[key] = id()
			} else {
				renew(value, id)
			}
		}
	case []any:
		for _, value := range node {
			renew(value, id)
		}
	}
}

// bring adds those of the named sheets that are not there yet.
func bring[T any](to *[]T, from []T, named map[string]bool, id func(T) string) {
	for _, sheet := range from {
		there := func(t T) bool { return id(t) == id(sheet) }
		if named[id(sheet)] && !slices.ContainsFunc(*to, there) {
			*to = append(slices.Clone(*to), sheet)
		}
	}
}
