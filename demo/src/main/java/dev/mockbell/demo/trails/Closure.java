package dev.mockbell.demo.trails;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import javax.xml.datatype.XMLGregorianCalendar;

/** A stage that is closed. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "Closure",
        propOrder = {"trailId", "stage", "from", "until", "why"})
public final class Closure {
    @XmlElement(required = true)
    public String trailId;

    public int stage;

    @XmlElement(required = true)
    @XmlSchemaType(name = "date")
    public XMLGregorianCalendar from;

    /** Null when nobody knows. */
    @XmlSchemaType(name = "date")
    public XMLGregorianCalendar until;

    @XmlElement(required = true)
    public String why;
}
