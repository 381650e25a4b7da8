package pricelist

// Supplier holds how the lists of a supplier are read, as somebody chose it once.
type Supplier struct {
	Name    string       `json:"name" minLength:"1" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Columns PriceColumns `json:"columns"`
}
