module nephelon

go 1.26.0

require (
	github.com/danielgtaylor/huma/v2 v2.37.2
	github.com/santhosh-tekuri/jsonschema/v6 v6.0.3
	golang.org/x/text v0.43.0
)

require github.com/stretchr/testify v1.12.1 // indirect
