package exchange

import (
	"encoding/json"
	"strconv"

	"nephelon/core/job"
)

// converted brings a plan file of an earlier format up to today's, and tells whether it was
// one. What it cannot make sense of it leaves for the schema to refuse.
func converted(document any) bool {
	file, is := document.(map[string]any)
	if !is || file["version"] != json.Number("1") {
		return false
	}
	// The first format came with two shapes of a pot life: one figure at one temperature and
	// mass, and, later, points of all three.
	products, _ := file["products"].([]any)
	for _, one := range products {
		if product, is := one.(map[string]any); is {
			potLifeAsPoints(product)
		}
	}
	file["version"] = digits(job.Version)
	return true
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
