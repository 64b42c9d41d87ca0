// Package api is generated from api/openapi.yaml: the types and the routes of the server.
package api

//go:generate go tool oapi-codegen -config config.yaml ../../api/openapi.yaml

// MarshalJSON writes the document as it is: a type made of another has none of its methods.
func (d GetRevision200JSONResponse) MarshalJSON() ([]byte, error) { return Document(d).MarshalJSON() }
