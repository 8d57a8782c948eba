package dev.mockbell.demo.trails;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlType;
import java.util.ArrayList;
import java.util.List;

/** Stages that are closed. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(name = "Closures")
public final class Closures {
    public List<Closure> closure = new ArrayList<>();
}
