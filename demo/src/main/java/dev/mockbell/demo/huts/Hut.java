package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlType;

/** A hut with its free bunks. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "Hut",
        propOrder = {"hutId", "name", "area", "bunksFree"})
public final class Hut {
    @XmlElement(required = true)
    public String hutId;

    @XmlElement(required = true)
    public String name;

    @XmlElement(required = true)
    public String area;

    public int bunksFree;
}
