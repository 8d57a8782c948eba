package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;
import java.util.ArrayList;
import java.util.List;

/** The huts found. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "FindHutsResponse")
@XmlType(
        name = "",
        propOrder = {"hut"})
public final class FindHutsResponse {
    public List<Hut> hut = new ArrayList<>();
}
