package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;
import java.util.ArrayList;
import java.util.List;

/** The areas. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "ListAreasResponse")
@XmlType(
        name = "",
        propOrder = {"area"})
public final class ListAreasResponse {
    @XmlElement(required = true)
    public List<String> area = new ArrayList<>();
}
