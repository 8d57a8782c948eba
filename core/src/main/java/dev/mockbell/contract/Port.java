package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.Optional;

/**
 * A binding at an address.
 *
 * @param address where the contract says it is; empty when it does not
 */
public record Port(String name, Binding binding, Optional<String> address, Place place) {}
