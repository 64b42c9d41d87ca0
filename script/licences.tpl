{{range .}}§§ {{.Name}} {{.Version}} {{.LicenseName}}
{{.LicenseText}}
{{end}}
