package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlType;
import java.util.ArrayList;
import java.util.List;

/** The people who come. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "Party",
        propOrder = {"guest"})
public final class Party {
    @XmlElement(required = true)
    public List<Guest> guest = new ArrayList<>();
}
