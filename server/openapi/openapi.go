// Package openapi writes the description of the API, as OpenAPI 3.1 has it, from the table of its addresses and the types of Go.
package openapi

import (
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"
	"regexp"
	"strconv"
	"strings"

	"wunderkammer/core/contract"
	"wunderkammer/server"
)

// groups says what the groups of addresses are for, in their order.
var groups = [][2]string{
	{server.Scripts, "What a script needs: controls and properties by their names."},
	{server.Projects, "Making, reading and removing projects."},
	{server.ChangeLog, "Changes as operations, one after another: what pages send and follow."},
	{server.Files, "Project files, pictures and sounds."},
	{server.HandOffs, "Compositions that are handed off, their addresses, and what is reached by one."},
	{server.ExportJobs, "Exports that the server makes."},
}

// object is an object of JSON.
type object = map[string]any

// Write returns the description. The comments of types are read from the sources of Go below root.
func Write(root string) ([]byte, error) {
	docs, err := contract.ReadDocs(root, "core", "server", "store")
	if err != nil {
		return nil, err
	}
	schemas := contract.NewSchemas("#/components/schemas/", docs)
	paths := object{}
	for _, route := range server.Routes() {
		path := parts.ReplaceAllString(route.Path, "{$1}")
		of, _ := paths[path].(object)
		if of == nil {
			of = object{}
			paths[path] = of
		}
		of[strings.ToLower(route.Method)] = operation(schemas, route)
	}
	problem := schemas.Of(reflect.TypeFor[server.ProblemDetails]())
	if err := schemas.Err(); err != nil {
		return nil, err
	}
	var tags []any
	for _, g := range groups {
		tags = append(tags, object{"name": g[0], "description": g[1]})
	}
	out := object{
		"openapi": "3.1.0",
		"info": object{
			"title": "Wunderkammer", "version": "1",
			"description": "Where the server has a password, send it by HTTP Basic; the user name does not matter. Written by `make contract` from the types of Go: change those.",
		},
		"tags":     tags,
		"security": []any{object{"password": []any{}}, object{}},
		"paths":    paths,
		"components": object{
			"schemas":         schemas.Done,
			"securitySchemes": object{"password": object{"type": "http", "scheme": "basic"}},
			"responses": object{"problem": object{
				"description": "What is wrong, in a sentence", "content": object{"application/problem+json": object{"schema": problem}},
			}},
		},
	}
	data, err := json.MarshalIndent(out, "", " ")
	return append(data, '\n'), err
}

// parts are the parts of a path that stand for any.
var parts = regexp.MustCompile(`:(\w+)`)

// operation describes what an address does.
func operation(schemas *contract.Schemas, r server.Route) object {
	out := object{"summary": r.Does, "tags": []any{r.Group}, "operationId": id(r)}
	if r.More != "" {
		out["description"] = r.More
	}
	var parameters []any
	for _, name := range parts.FindAllStringSubmatch(r.Path, -1) {
		parameters = append(parameters, object{"name": name[1], "in": "path", "required": true, "schema": object{"type": "string"}})
	}
	for _, p := range r.Query {
		schema := schemas.Of(reflect.TypeOf(p.Type))
		if p.Many {
			schema = object{"type": "array", "items": schema}
		}
		one := object{"name": p.Name, "in": "query", "description": p.Does, "schema": schema}
		if p.Must {
			one["required"] = true
		}
		parameters = append(parameters, one)
	}
	if len(parameters) > 0 {
		out["parameters"] = parameters
	}
	switch {
	case r.Body != nil:
		out["requestBody"] = object{"required": true, "content": object{"application/json": object{"schema": schemas.Of(reflect.TypeOf(r.Body))}}}
	case r.Takes != "":
		out["requestBody"] = object{"required": true, "content": object{r.Takes: object{}}}
	}
	good := object{}
	status := r.Status
	switch {
	case r.Answer != nil:
		good["content"] = object{"application/json": object{"schema": schemas.Of(reflect.TypeOf(r.Answer))}}
	case r.Sends != "":
		good["content"] = object{r.Sends: object{}}
	case status == 0:
		status = http.StatusNoContent
	}
	if status == 0 {
		status = http.StatusOK
	}
	good["description"] = http.StatusText(status)
	refusal := object{"$ref": "#/components/responses/problem"}
	answers := object{strconv.Itoa(status): good, "default": refusal}
	if r.Makes {
		answers[strconv.Itoa(http.StatusCreated)] = good
	}
	for _, refused := range r.Refuses {
		answers[strconv.Itoa(refused)] = refusal
	}
	out["responses"] = answers
	return out
}

// id names an operation after its address.
func id(r server.Route) string {
	words := []string{strings.ToLower(r.Method)}
	for _, word := range strings.FieldsFunc(strings.TrimPrefix(r.Path, "/api"), func(c rune) bool { return c == '/' || c == '.' || c == '-' }) {
		word = strings.TrimPrefix(word, ":")
		words = append(words, fmt.Sprint(strings.ToUpper(word[:1]), word[1:]))
	}
	return strings.Join(words, "")
}
