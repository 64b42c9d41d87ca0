// Package api is generated from api/openapi.yaml: the types and the routes of the server.
package api

//go:generate go tool oapi-codegen -config config.yaml ../../api/openapi.yaml
