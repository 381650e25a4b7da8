package exchange

import (
	"encoding/json"
	"strconv"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/material"
)

// converted brings a plan file of an earlier format up to today's, and reports whether it was
// one. What it cannot make sense of it leaves for the schema to refuse.
func converted(document any) bool {
	file, is := document.(map[string]any)
	if !is {
		return false
	}
	switch file["version"] {
	case json.Number("1"):
		// The first format came with two shapes of a pot life: one figure at one temperature and
		// mass, and, later, points of all three.
		for _, product := range objects(file["products"]) {
			potLifeAsPoints(product)
		}
		fallthrough
	case json.Number("2"):
		// Up to the second format every amount was theoretical: losses were added to a spread and to an area
		// per kit as well.
		work, _ := file["job"].(map[string]any)
		for _, surface := range objects(work["surfaces"]) {
			for _, coat := range objects(surface["coats"]) {
				asTheoretical(coat)
			}
		}
	default:
		return false
	}
	file["version"] = digits(job.Version)
	return true
}

// objects are the objects of a list; what is none it leaves out.
func objects(list any) []map[string]any {
	var all []map[string]any
	values, _ := list.([]any)
	for _, one := range values {
		if object, is := one.(map[string]any); is {
			all = append(all, object)
		}
	}
	return all
}

func asTheoretical(coat map[string]any) {
	amount, is := coat["amount"].(map[string]any)
	if is && (amount["basis"] == string(buildup.SpreadRate) || amount["basis"] == string(buildup.AreaPerKit)) {
		amount["figure"] = string(material.Theoretical)
	}
}

func potLifeAsPoints(product map[string]any) {
	life, is := product["potLife"].(map[string]any)
	if !is {
		return
	}
	const told = 20 // °C, where nothing else was
	point := map[string]any{"at": digits(told), "lasts": life["value"], "source": life["source"]}
	if at, is := product["potLifeAt"].(map[string]any); is {
		point["at"] = at["value"]
	}
	if mass, is := product["potLifeMass"].(map[string]any); is {
		point["mass"] = mass["value"]
	}
	delete(product, "potLifeAt")
	delete(product, "potLifeMass")
	product["potLife"] = []any{point}
}

func digits(n int) json.Number { return json.Number(strconv.Itoa(n)) }
