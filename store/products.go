package store

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"nephelon/core/material"
)

// Products lists the company's shelf by name.
func (s *Store) Products(ctx context.Context, company uuid.UUID) ([]material.Product, error) {
	var docs [][]byte
	if err := s.db.SelectContext(ctx, &docs, `select doc from products where company_id = $1 order by name`, company); err != nil {
		return nil, fmt.Errorf("list products: %w", err)
	}
	products := make([]material.Product, len(docs))
	for i, doc := range docs {
		if err := json.Unmarshal(doc, &products[i]); err != nil {
			return nil, fmt.Errorf("decode product: %w", err)
		}
	}
	return products, nil
}

// AddProduct puts a data sheet on the company's shelf.
func (s *Store) AddProduct(ctx context.Context, company uuid.UUID, p material.Product) error {
	doc, err := json.Marshal(p)
	if err != nil {
		return fmt.Errorf("encode product: %w", err)
	}
	if _, err := s.db.ExecContext(ctx, `insert into products (company_id, id, doc) values ($1, $2, $3)`, company, p.ID, doc); err != nil {
		return fmt.Errorf("add product: %w", err)
	}
	return nil
}
