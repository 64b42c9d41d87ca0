// Lists writes the kinds that the code lists into the enums of the contract and of the schema of designs, so that a new
// kind is named once. An enum to be written has the name of its list before it, as x-list. It works on the files that
// it is given.
package main

import (
	"fmt"
	"log"
	"os"
	"regexp"
	"strings"

	"oddspool/core/stock"
	"oddspool/core/symbology"
)

// lists are all lists of kinds by the names that x-list has.
func lists() map[string][]string {
	lists := map[string][]string{}
	for _, kind := range symbology.All() {
		lists["symbologies"] = append(lists["symbologies"], string(kind.ID))
	}
	lists["purposes"] = []string{""}
	for _, purpose := range symbology.Purposes() {
		lists["purposes"] = append(lists["purposes"], string(purpose))
	}
	for _, kind := range stock.Kinds() {
		lists["stocks"] = append(lists["stocks"], string(kind))
	}
	return lists
}

// enum matches the name of a list and the enum behind it, in JSON and in YAML.
var enum = regexp.MustCompile(`("?x-list"?: "?)([a-z ]+)("?, "?enum"?: \[)[^\]]*\]`)

// fill writes the lists into a document. Its error names a list that there is not.
func fill(document string, lists map[string][]string) (filled string, err error) {
	filled = enum.ReplaceAllStringFunc(document, func(found string) string {
		part := enum.FindStringSubmatch(found)
		list, known := lists[part[2]]
		if !known {
			err = fmt.Errorf("there is no list %q", part[2])
		}
		values := make([]string, len(list))
		for i, value := range list {
			values[i] = fmt.Sprintf("%q", value)
		}
		return part[1] + part[2] + part[3] + strings.Join(values, ", ") + "]"
	})
	return filled, err
}

func main() {
	for _, path := range os.Args[1:] {
		document, err := os.ReadFile(path)
		if err != nil {
			log.Fatal(err)
		}
		filled, err := fill(string(document), lists())
		if err != nil {
			log.Fatalf("%s: %v", path, err)
		}
		if filled == string(document) {
			continue
		}
		if err := os.WriteFile(path, []byte(filled), 0o644); err != nil {
			log.Fatal(err)
		}
	}
}
