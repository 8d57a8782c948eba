package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.List;
import javax.xml.namespace.QName;

/** A service with its ports. */
public record Service(QName name, List<Port> ports, String documentation, Place place) {}
