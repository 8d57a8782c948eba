package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import javax.xml.datatype.XMLGregorianCalendar;

/** Tells of an animal. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "ReportSighting")
@XmlType(
        name = "",
        propOrder = {"species", "area", "seenAt", "count"})
public final class ReportSighting {
    @XmlElement(required = true)
    public String species;

    @XmlElement(required = true)
    public String area;

    @XmlSchemaType(name = "dateTime")
    @XmlElement(required = true)
    public XMLGregorianCalendar seenAt;

    public Integer count;
}
