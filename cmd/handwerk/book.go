package main

import (
	"fmt"
	"os"

	"github.com/spf13/cobra"

	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/workshop/kinds"
)

// bookCommand cares for the book without serving it.
func bookCommand() *cobra.Command {
	check := &cobra.Command{
		Use: "check [DIR]", Short: "Check the book that ships, and a shop's own directory over it",
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			dir := ""
			if len(args) == 1 {
				dir = args[0]
			}
			layers, err := shopLayers(dir)
			if err != nil {
				return err
			}
			b, remarks, err := files.LoadWithRemarks(kinds.Natures(), layers...)
			if err != nil {
				return err
			}
			for _, r := range remarks {
				_, _ = fmt.Fprintf(cmd.OutOrStdout(), "Worth a look: %s\n", r.Error())
			}
			_, err = fmt.Fprintf(
				cmd.OutOrStdout(),
				"The book is sound: %d routes, %d spec sheets, %d causes, %d tests, %d cautions, %d materials, %d instruments.\n",
				len(b.Routes),
				len(b.Sheets),
				len(b.Causes),
				len(b.Tests),
				len(b.Cautions),
				len(b.Materials),
				len(b.Instruments),
			)
			return err
		},
	}
	schema := &cobra.Command{
		Use: "schema", Short: "Print the JSON Schema of the book's files", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			raw, err := files.Schema()
			if err != nil {
				return err
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(raw))
			return err
		},
	}
	export := &cobra.Command{
		Use: "export DIR", Short: "Write the built-in book to a new directory, as a start for your own",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error { return exportBook(cmd, args[0]) },
	}
	cmd := &cobra.Command{Use: "book", Short: "Work with the book"}
	cmd.AddCommand(check, schema, export)
	return cmd
}

// exportBook writes what ships; what is there already is not touched.
func exportBook(cmd *cobra.Command, dir string) error {
	if err := os.Mkdir(dir, 0o755); err != nil {
		return fmt.Errorf("the book goes into a new directory: %w", err)
	}
	if err := os.CopyFS(dir, bookshop.Files); err != nil {
		return err
	}
	_, err := fmt.Fprintf(
		cmd.OutOrStdout(),
		"The book is in %s. Change what you like, keep only what differs, then: handwerk book check %s\n", dir, dir,
	)
	return err
}
