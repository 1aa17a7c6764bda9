module handwerk

go 1.26.0

require (
	github.com/goccy/go-yaml v1.19.2
	github.com/google/uuid v1.6.0
	github.com/stretchr/testify v1.12.1
	github.com/swaggest/jsonschema-go v0.3.74
	gonum.org/v1/gonum v0.17.0
	pgregory.net/rapid v1.3.0
)

require (
	github.com/swaggest/refl v1.3.1 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
)
