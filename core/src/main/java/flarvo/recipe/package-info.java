/**
 * Recipes: the decisions of one shot and a board of deliveries, made again on many shots. Each shot
 * is received, decided, sent and proven by itself, and what stops one holds nobody up.
 */
package flarvo.recipe;
