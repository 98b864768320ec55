package flarvo.vet.adjust;

/**
 * What an adjustment came to.
 *
 * @param costBefore half of the sum of losses, square pixels
 * @param rounds steps that were tried
 * @param settled false where rounds ran out first
 */
public record Adjustment(
    Bundle bundle, double costBefore, double cost, int rounds, boolean settled) {}
